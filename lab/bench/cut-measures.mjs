// What a cut is worth by numbers: for first cuts, and for what they have to be better than.
import {
  framesPerSecond,
  frameTime,
  gapsOf,
  marksInUse,
  scoreOf,
  slotEnergies,
  toMontageTime,
  varietyOf,
} from '../../packages/core/dist/index.js';
import { there } from '../../scripts/there.mjs';
import { characterOf } from '../../packages/core/dist/footage/clip-summary.js';
import { sourceFrame } from '../../packages/core/dist/score/placed-shot.js';

const REPEATS_WITHIN = 8;

/** Ranks from 0, ties in the middle of their places. */
function ranks(values) {
  const order = values.map((v, i) => [v, i]).sort((a, b) => a[0] - b[0]);
  const at = new Array(values.length);
  for (let i = 0; i < order.length;) {
    let j = i;
    while (j < order.length && order[j][0] === order[i][0]) j++;
    for (let k = i; k < j; k++) at[order[k][1]] = (i + j - 1) / 2;
    i = j;
  }
  return at;
}

/** Rank correlation (Spearman 1904), -1 to 1; 0 where one of them does not vary. */
export function rankCorrelation(a, b) {
  const [x, y] = [ranks(a), ranks(b)];
  const mean = (v) => v.reduce((s, n) => s + n, 0) / v.length;
  const [mx, my] = [mean(x), mean(y)];
  const sum = (f) => x.reduce((s, _, i) => s + f(i), 0);
  const spread = Math.sqrt(sum((i) => (x[i] - mx) ** 2) * sum((i) => (y[i] - my) ** 2));
  return spread === 0 ? 0 : sum((i) => (x[i] - mx) * (y[i] - my)) / spread;
}

/**
 * The measures of a cut.
 * @param {import('../../packages/core/dist/index.js').Montage} montage
 * @param {import('../../packages/core/dist/index.js').SeenMaterial} seen
 */
export function measuresOf(montage, seen) {
  const { slots } = scoreOf(montage);
  const { rate } = montage.shape;
  const energies = slotEnergies(montage, there(seen.peaks));
  const strong = marksInUse(montage)
    .filter((m) => m.kind !== 'beat' && m.kind !== 'cue')
    .flatMap((m) => toMontageTime(there(montage.song).pieces, m.time) ?? []);
  const pairs = [];
  let [hits, onMarks, repeats] = [0, 0, 0];
  slots.forEach((slot, i) => {
    const { placed } = slot;
    if (!placed) return;
    const { assetId } = placed.item;
    if (slots.slice(Math.max(0, i - REPEATS_WITHIN), i).some((s) => s.placed?.item.assetId === assetId)) repeats++;
    const summary = seen.clips[assetId];
    if (!summary) return;
    const fps = framesPerSecond(placed.item.rate);
    const shown = Array.from({ length: slot.frames }, (_, n) => sourceFrame(placed, n, montage) ?? placed.item.frames - 1);
    const [from, to] = [Math.min(...shown) / fps, (Math.max(...shown) + 1) / fps];
    pairs.push([energies[slot.start.id], characterOf(summary, from, to).movement]);
    // What happens in the clip, as it was found: whether it is seen, and on a mark.
    const hit = summary.hits[0]?.frame;
    const at = hit === undefined ? -1 : shown.findIndex((f) => Math.abs(f - hit) <= 0.5);
    if (at < 0) return;
    hits++;
    const time = frameTime(slot.start.frame + at, rate);
    if (strong.some((m) => Math.abs(m - time) <= 1.001 / framesPerSecond(rate))) onMarks++;
  });
  return {
    slots: slots.length,
    agreement: rankCorrelation(
      pairs.map((p) => p[0]),
      pairs.map((p) => p[1]),
    ),
    hits,
    onMarks: hits > 0 ? onMarks / hits : 0,
    repeats: repeats / slots.length,
    predictable: varietyOf(montage).predictable,
    gaps: gapsOf(montage).length,
  };
}
