import { frameTime } from '../time/frames.ts';
import { toSongTime } from '../music/arrangement.ts';
import { CommandError } from '../document/command-error.ts';
import { markOf } from '../marks/mark-list.ts';
import type { Montage, Peg, Shot } from '../document/montage.ts';
import { pegsOf, type PlacedPeg } from '../score/score.ts';

/** Where an end of a cutaway is: on a mark, or at a frame of the montage. */
export type OverEnd = { readonly markId: string } | { readonly frame: number };

/** Whether two shots hang on the same of the two lines that lie over the main one. */
export const sameOverLine = (a: Pick<Shot, 'upper'>, b: Pick<Shot, 'upper'>): boolean => Boolean(a.upper) === Boolean(b.upper);

/** Two pegs for a cutaway on one of the over lines; one that is there already is used again, but not the other line's. */
export function overPegsFor(
  montage: Montage,
  from: OverEnd,
  to: OverEnd,
  upper: boolean,
): { montage: Montage; start: PlacedPeg; end: PlacedPeg } {
  if (!montage.song) throw new CommandError('There is no song yet. Choose one first.');
  const { pieces } = montage.song;
  const length = pegsOf(montage).frames;
  let next = montage;
  const others = montage.shots.filter((s) => s.over && !sameOverLine(s, { upper }));
  const theirs = new Set(others.flatMap((s) => [s.startPeg, s.endPeg]));
  const ids = [from, to].map((end): string => {
    const mark = 'markId' in end ? markOf(montage, end.markId) : null;
    const onEnd = (p: PlacedPeg): boolean => (mark ? p.mark?.id === mark.id : 'frame' in end && p.frame === end.frame && !p.mark);
    const there = pegsOf(next).overPegs.find((p) => !theirs.has(p.id) && onEnd(p));
    if (there) return there.id;
    // A hair into the frame, so that it is that frame again however it is rounded; the end itself lies inside the song.
    const frame = 'frame' in end ? Math.max(0, Math.min(length, end.frame)) : 0;
    const time = mark?.time ?? toSongTime(pieces, frameTime(frame, montage.shape.rate));
    const peg: Peg = { id: `p${next.lastId + 1}`, markId: mark?.id ?? null, time, offset: 0, origin: 'hand', over: true };
    next = { ...next, lastId: next.lastId + 1, pegs: [...next.pegs, peg] };
    return peg.id;
  });
  const placed = ids.map((id) => pegsOf(next).overPegs.find((p) => p.id === id));
  const [start, end] = placed;
  if (!start || !end) throw new CommandError('That moment is cut out of the song.');
  if (end.frame <= start.frame) throw new CommandError('A cutaway must end after it starts. Choose a later end.');
  return { montage: next, start, end };
}
