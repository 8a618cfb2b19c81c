import type { FillOrder } from './orders/all.ts';

/** How slots are filled. */
export interface FillOptions {
  /** all slots anew, only those in which nothing hangs, or those named in `slots`; locked shots stay in any case */
  readonly scope: 'all' | 'empty' | 'chosen';
  /** first pegs of the chosen slots */
  readonly slots?: readonly string[];
  readonly order: FillOrder;
  /** assets in the order in which they were picked; the others are left out */
  readonly picked?: readonly string[];
  /** for the shuffled order */
  readonly seed: number;
  /** which part of a clip: from its in, up to its out, its hit on the slot's first frame, or on the strongest mark inside */
  readonly from: 'in' | 'out' | 'hit-first' | 'hit-mark';
  /** the slowest a clip may run to cover its slot, 1 is as recorded */
  readonly leastSpeed: number;
  /** where slowing is not enough, a clip is shown beyond its select */
  readonly handles: boolean;
  /** a clip too short even so: leave a gap, hold its last frame, let the next clip share the slot, or take the next that is long enough */
  readonly tooShort: 'gap' | 'hold' | 'divide' | 'next';
  /** when every clip was used: stop, or go round again with unused parts first */
  readonly whenOut: 'stop' | 'again';
  /** within so many slots no clip comes again, as far as there are others */
  readonly apart: number;
}

export const FILL_DEFAULTS: FillOptions = {
  scope: 'all',
  order: 'story',
  seed: 1,
  from: 'in',
  leastSpeed: 0.5,
  handles: true,
  tooShort: 'gap',
  whenOut: 'again',
  apart: 1,
};

/** What best match needs to know of the song and the footage. */
export interface FillKnowledge {
  /** by first peg of a slot: how full the music is there, 0 to 1 */
  readonly energy: Readonly<Record<string, number>>;
  /** by asset and select, as `candidateKey` writes it */
  readonly looks: Readonly<Record<string, SelectLook>>;
}

/** What a select is like, 0 to 1, and its main colours as #rrggbb. */
export interface SelectLook {
  readonly movement: number;
  readonly brightness: number;
  readonly sharpness: number;
  readonly colours: readonly string[];
}

export const candidateKey = (assetId: string, selectId: string): string => `${assetId} ${selectId}`;
