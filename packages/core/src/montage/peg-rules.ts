import { toMontageTime } from '../music/arrangement.ts';
import { arrangedLength } from '../music/arrangement.ts';
import { pulse, type Mark, type Montage, type PegRule } from './document.ts';

/** A slot shorter than this at the very start or end of the song would be a sliver, seconds. */
const EDGE_SLIVER_S = 0.25;

/** The marks that a rule chooses, in order. Counting starts at the first bar, or at the first beat where there is none. */
export function marksByRule(montage: Montage, rule: PegRule): Mark[] {
  if (!montage.song) return [];
  const beats = pulse(montage);
  const units = rule.unit === 'bar' ? beats.filter((m) => m.kind === 'bar') : beats;
  const firstBar = units.findIndex((m) => m.kind === 'bar');
  const start = Math.max(0, firstBar);
  const length = arrangedLength(montage.song.pieces);
  const pieces = montage.song.pieces;
  return units.filter((m, i) => {
    if ((((i - start) % rule.every) + rule.every) % rule.every !== 0) return false;
    const time = toMontageTime(pieces, m.time);
    // A mark that sleeps keeps its peg, which wakes with it.
    return time === null || (time >= EDGE_SLIVER_S && time <= length - EDGE_SLIVER_S);
  });
}
