/** How many files come in, films are made and pages are edited at once. */
export const UPLOADS = 50;
export const EXPORTS = 5;
export const PAGES = 10;
