/** Of the document: the form in which montages are saved now. */
export const MONTAGE_VERSION = 7;
