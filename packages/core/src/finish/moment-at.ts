import { CommandError } from '../document/command-error.ts';
import type { Moment, Montage } from '../document/montage.ts';
import { markOf } from '../marks/mark-list.ts';

/** A moment that is asked for: on a mark, or at a song time in seconds. */
export type At = { readonly markId: string } | { readonly time: number };

/** A span that is asked for; what is left out is the montage's start or end, or no time to come and go in. Beats. */
export interface Between {
  readonly from?: At | null;
  readonly to?: At | null;
  readonly rise?: number;
  readonly fall?: number;
}

/** The moment that was asked for. @throws CommandError where there is no song, or the mark is gone */
export function momentAt(montage: Montage, at: At): Moment {
  if (!montage.song) throw new CommandError('There is no song yet. Choose one first.');
  if (!('markId' in at)) return { markId: null, time: at.time };
  const mark = markOf(montage, at.markId);
  return { markId: mark.id, time: mark.time };
}
