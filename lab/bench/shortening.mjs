// How well a shortened song goes on across its joins: composed pieces are made 30 s long, and the beats that were composed
// are followed over every join of every proposal, and so are the beats that were marked. What is off is the beat after the
// join against the beat before it.
import { there } from '../../scripts/there.mjs';
import { detectHeard } from '../../packages/core/dist/music/detect.js';
import { listen } from '../../packages/core/dist/music/heard-song.js';
import { OnsetMeter } from '../../packages/core/dist/music/onset-strength.js';
import { mapOf, shorten, ShorteningError } from '../../packages/core/dist/music/shortening.js';
import { ANALYSIS_RATE } from '../../packages/core/dist/music/signal.js';
import { hearSound } from '../../packages/media/dist/sound/sound.js';
import { markingPieces } from './marking.mjs';

const WISHED_S = 30;

/** Seconds by which the beat is early or late across a join, held to the nearest beat: a song that skips a beat is not off it. */
function offAcross({ out, into }, beats) {
  const before = beats.findLastIndex((t) => t < out - 0.05);
  const after = beats.findIndex((t) => t >= into - 0.05);
  if (before < 0 || after < 0) return null;
  const step = beats[before + 1] - beats[before];
  const next = out - beats[before] + (beats[after] - into);
  return next - Math.max(1, Math.round(next / step)) * step;
}

export async function benchShortening(count = 48) {
  const pieces = (await markingPieces(count)).filter((p) => p.group === 'composed');
  const off = [];
  let refused = 0;
  let joins = 0;
  for (const piece of pieces) {
    const meter = new OnsetMeter(ANALYSIS_RATE);
    await hearSound(piece.wav, (samples) => meter.push(samples));
    const { signal, onsets } = meter.finish();
    const heard = listen(signal, onsets);
    try {
      const map = mapOf(detectHeard(heard));
      const marked = map.beats.map((b) => b.time);
      for (const proposal of shorten(heard, map, WISHED_S)) {
        joins += proposal.joins.length;
        for (const join of proposal.joins)
          off.push({ piece: piece.name, by: offAcross(join, piece.truth.beats), marked: offAcross(join, marked) });
      }
    } catch (error) {
      if (!(error instanceof ShorteningError)) throw error;
      refused++;
    }
  }
  return { pieces: pieces.length, refused, joins, off: off.filter((o) => o.by !== null && !Number.isNaN(o.by)) };
}

export async function shortening() {
  const { pieces, refused, off } = await benchShortening();
  const sizes = off.map((o) => Math.abs(there(o.by))).sort((a, b) => a - b);
  const marked = off.map((o) => Math.abs(there(o.marked)));
  return [
    { what: `pieces that could be made ${WISHED_S} s long`, value: (100 * (pieces - refused)) / pieces, unit: ' %' },
    {
      what: 'joins over which the composed beat goes on within 15 ms',
      value: (100 * sizes.filter((s) => s < 0.015).length) / sizes.length,
      unit: ' %',
    },
    {
      what: 'joins over which the marked beats go on within 15 ms',
      value: (100 * marked.filter((s) => s < 0.015).length) / marked.length,
      unit: ' %',
    },
    { what: 'the middle join is off by', value: 1000 * sizes[Math.floor(sizes.length / 2)], unit: ' ms' },
  ];
}

if (process.argv[1] === import.meta.filename) {
  const { off, ...about } = await benchShortening();
  for (const { piece, by } of off) if (Math.abs(there(by)) >= 0.015) console.log(piece, `${(1000 * there(by)).toFixed(1)} ms`);
  console.log(about, 'within 15 ms:', off.filter((o) => Math.abs(there(o.by)) < 0.015).length, 'of', off.length);
}
