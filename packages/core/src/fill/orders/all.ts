import { match } from './match.ts';
import { picked } from './picked.ts';
import { shuffle } from './shuffle.ts';
import { story } from './story.ts';

/** Every order of filling, as they are offered. */
export const ORDERS = { story, picked, shuffle, match };

export type FillOrder = keyof typeof ORDERS;
export const FILL_ORDERS = Object.keys(ORDERS) as [FillOrder, ...FillOrder[]];
