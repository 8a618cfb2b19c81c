import { BAND_STYLES } from './band-styles.ts';
import { GROOVE_STYLES } from './groove-styles.ts';
import { HALL_STYLES } from './hall-styles.ts';
import { HEAVY_STYLES } from './heavy-styles.ts';
import { PLAIN_STYLES } from './plain-styles.ts';
import { RIFF_STYLES } from './riff-styles.ts';
import { SEQUENCED_STYLES } from './sequenced-styles.ts';
import type { Style } from './style.ts';

/** Every style that a piece may keep to, in the order in which the benchmark goes through them. */
export const STYLES: readonly Style[] = [...BAND_STYLES, ...GROOVE_STYLES, ...HALL_STYLES];

/** Every style that a free piece may be of or borrow from. */
export const FREE_STYLES: readonly Style[] = [...STYLES, ...RIFF_STYLES, ...PLAIN_STYLES, ...SEQUENCED_STYLES];

/** Every style that a piece may be asked to be of: the heavy ones are not drawn by chance, so that pieces of known seeds stay as they are. */
export const NAMED_STYLES: readonly Style[] = [...FREE_STYLES, ...HEAVY_STYLES];
