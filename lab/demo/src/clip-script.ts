import type { SKRSContext2D } from '@napi-rs/canvas';
import type { View } from './landscape.ts';

/** A sound at the moment of action. */
export type ActionSound = 'drum' | 'cheer' | 'twang' | 'whistle' | 'whoosh';

/** One demo clip: its format, its hour, when its action happens, and how a frame of it is painted. */
export interface ClipScript {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly fps: number;
  /** seconds */
  readonly length: number;
  /** seconds of each moment of action; the first is the one */
  readonly actions: readonly number[];
  readonly sound?: ActionSound;
  readonly paint: (c: SKRSContext2D, time: number, view: (part: Partial<View>) => View) => void;
}

/** The format of most clips. */
export const WIDE = { width: 1280, height: 720, fps: 30 };
