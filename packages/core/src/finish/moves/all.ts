import { closer } from './closer.ts';
import { down } from './down.ts';
import { drawn } from './drawn.ts';
import { drift } from './drift.ts';
import { left } from './left.ts';
import { right } from './right.ts';
import { up } from './up.ts';
import { wider } from './wider.ts';

/** Every kind of move, in the order in which they are offered. */
export const MOVES = { closer, wider, left, right, up, down, drift, drawn };

export type MoveKind = keyof typeof MOVES;
export const MOVE_KINDS = Object.keys(MOVES) as [MoveKind, ...MoveKind[]];
