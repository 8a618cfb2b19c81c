import { toMontageTime } from '../music/arrangement.ts';
import type { Montage } from '../document/montage.ts';

/** A stretch of a film with a name, seconds of the film. */
export interface Chapter {
  readonly title: string;
  readonly from: number;
  readonly to: number;
}

/**
 * The song's sections as chapters of a film that shows a stretch of the montage.
 * @param from where the film begins, montage seconds
 * @param to where it ends
 * @returns in order, without overlap, from the film's start to its end; none where the song has no sections
 */
export function chaptersOf(montage: Montage, from: number, to: number): Chapter[] {
  const { song } = montage;
  if (!song) return [];
  const starts = song.sections
    .flatMap(({ name: title, from: begins }, i) => {
      const ends = song.sections[i + 1]?.from ?? Infinity;
      // A section whose start was cut out begins where what is left of it is heard.
      const inside = [begins, ...song.pieces.map((piece) => piece.from)].filter((t) => t >= begins && t < ends);
      const heard = inside.flatMap((t) => toMontageTime(song.pieces, t) ?? []);
      return heard.length > 0 ? [{ title, at: Math.min(...heard) }] : [];
    })
    .sort((a, b) => a.at - b.at);
  return starts.flatMap(({ title, at }, i) => {
    const [begins, ends] = [Math.max(i === 0 ? from : at, from), Math.min(starts[i + 1]?.at ?? to, to)];
    return ends - begins > 1e-3 ? [{ title, from: begins - from, to: ends - from }] : [];
  });
}
