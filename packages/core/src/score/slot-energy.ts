import { toSongTime } from '../music/arrangement.ts';
import type { Peaks } from '../music/peaks.ts';
import { frameTime } from '../time/frames.ts';
import type { Montage } from '../document/montage.ts';
import { scoreOf } from './score.ts';

/**
 * How full the song is over a stretch of it, song seconds: mean of the outline with the bass once more; 0 to about 1.
 * @returns 0 for a stretch outside the song
 */
export function songEnergy(peaks: Peaks, from: number, to: number): number {
  const first = Math.max(0, Math.floor(from * peaks.perSecond));
  const last = Math.min(peaks.all.length, Math.max(first + 1, Math.ceil(to * peaks.perSecond)));
  let sum = 0;
  for (let i = first; i < last; i++) sum += 0.6 * peaks.all[i]! + 0.4 * peaks.low[i]!;
  return last > first ? sum / (last - first) : 0;
}

/**
 * How full the music is in each slot, by its first peg.
 * @returns by the peg's id, 0 to about 1; nothing where there is no song
 */
export function slotEnergies(montage: Montage, peaks: Peaks): Record<string, number> {
  const pieces = montage.song?.pieces ?? [];
  const { rate } = montage.shape;
  return Object.fromEntries(
    scoreOf(montage).slots.map((slot) => {
      const from = toSongTime(pieces, frameTime(slot.start.frame, rate));
      return [slot.start.id, songEnergy(peaks, from, from + slot.length)];
    }),
  );
}
