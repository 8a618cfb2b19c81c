import { cut } from './cut.ts';
import { fade } from './fade.ts';
import { grow } from './grow.ts';
import { letters } from './letters.ts';
import { marks } from './marks.ts';
import { middle } from './middle.ts';
import { rise } from './rise.ts';
import { words } from './words.ts';

/** Every way in which titles come and go, in the order in which they are offered. */
export const ENTRANCES = { cut, fade, rise, grow, letters, words, middle, marks };

export type EntranceKind = keyof typeof ENTRANCES;
export const ENTRANCE_KINDS = Object.keys(ENTRANCES) as [EntranceKind, ...EntranceKind[]];
