import { toMontageTime } from '../music/arrangement.ts';
import { frameTime } from '../time/frames.ts';
import { placedTitles } from '../finish/titles.ts';
import { firingsOf } from '../finish/firings.ts';
import type { Mark, Montage } from '../document/montage.ts';
import { scoreOf } from '../score/score.ts';
import type { Command } from './all.ts';

/** How many of something are in use now, and how many of those would not be afterwards. */
export interface Falling {
  readonly of: number;
  readonly outside: number;
}

/** What falls outside when another stretch of the song is used; it sleeps there, and wakes when that stretch comes back. */
export interface Outside {
  readonly shots: Falling;
  readonly titles: Falling;
  readonly effects: Falling;
}

function falling<T>(before: readonly T[], after: readonly T[], idOf: (item: T) => string): Falling {
  const there = new Set(after.map(idOf));
  return { of: before.length, outside: before.filter((item) => !there.has(idOf(item))).length };
}

const shotIds = (montage: Montage): string[] => {
  const { slots, over } = scoreOf(montage);
  return [...slots, ...over].flatMap((slot) => slot.placed?.shot.id ?? []);
};
/** One on the mark that ends the song is never seen. */
const firingIds = (montage: Montage): string[] =>
  firingsOf(montage)
    .filter(({ frame }) => frame < scoreOf(montage).frames)
    .map(({ effect, at }) => `${effect.id} ${at ?? ''}`);

/**
 * What of a montage is no longer in use in another version of it, whose song is used otherwise.
 * @returns ids and counts; nothing where all of it is still in use
 */
export function whatFallsOutside(before: Montage, after: Montage): Outside {
  const same = (id: string): string => id;
  return {
    shots: falling(shotIds(before), shotIds(after), same),
    titles: falling(placedTitles(before), placedTitles(after), ({ title }) => title.id),
    effects: falling(firingIds(before), firingIds(after), same),
  };
}

/**
 * Titles whose moment is not in use any more go to the bar that is as far into the montage, in parts of its length, as their own was:
 * each to another, in their order.
 * @returns the commands that bring them; none where there are no bars, or none is outside
 */
export function titlesBroughtAlong(before: Montage, after: Montage): Command[] {
  const awake = new Set(placedTitles(after).map(({ title }) => title.id));
  const lost = placedTitles(before).filter(({ title }) => !awake.has(title.id));
  const { rate } = after.shape;
  const [old, now] = [scoreOf(before).frames, scoreOf(after)];
  const places = after.marks.flatMap((mark): { mark: Mark; time: number }[] => {
    const time = mark.kind === 'bar' ? toMontageTime(after.song?.pieces ?? [], mark.time) : null;
    return time === null || time >= now.length - 0.5 ? [] : [{ mark, time }];
  });
  const taken = new Set(placedTitles(after).map(({ title }) => title.from.markId));
  return lost.flatMap(({ title, from }): Command[] => {
    const wished = frameTime((from / old) * now.frames, rate);
    const free = places.filter(({ mark }) => !taken.has(mark.id));
    const best = free.reduce<(typeof free)[number] | null>(
      (near, place) => (near && Math.abs(near.time - wished) <= Math.abs(place.time - wished) ? near : place),
      null,
    );
    if (!best) return [];
    taken.add(best.mark.id);
    return [{ do: 'changeTitle', id: title.id, at: { markId: best.mark.id } }];
  });
}
