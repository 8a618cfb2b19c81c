// Composes pieces, plays them through the General MIDI sound font and writes what the beat network will hear of them, with
// the truth, for train.py. Debian's fluidsynth and fluid-soundfont-gm are needed; the application must be built.
// usage: node training/listen.mjs FOLDER FROM TO [STEP]     pieces FROM, FROM + STEP, ... below TO; those there are kept
import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { Chance, compose, composeUnmeasured, perform } from '../composer/dist/index.js';
import { play, RATE, writeHeard } from './heard.mjs';
import { amplified, GUITARS, recorded, together } from './recording.mjs';

/** One piece in so many has no beat, and one in so many of those is noise. */
const UNMEASURED = 14;
const NOISE = 3;
/** One piece in so many keeps to one style. */
const KEPT = 3;
/** One in so many is plain, so that the network learns what tells a bar where there is next to nothing. */
const PLAIN = 6;
/** One in so many is as only a sequencer would play it. */
const SEQUENCED = 4;

/** One in so many is fast and loud. */
const HEAVY = 5;
/** How often its distorted guitars go through an amplifier besides. */
const AMPLIFIED = 0.6;

const [folder, from, to, step = '1'] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });

function wishedStyle(seed) {
  if (seed % PLAIN === 1) return { style: 'plain' };
  if (seed % HEAVY === 3) return { style: 'heavy' };
  return seed % SEQUENCED === 2 ? { style: 'sequenced' } : {};
}

/** Rain, wind and surf: noise whose level wanders. */
function noise(chance, seconds) {
  const wander = chance.between(0.05, 3);
  const dark = chance.between(0, 0.98);
  const drops = chance.is(0.5) ? chance.between(5, 200) : 0;
  const phase = chance.between(0, 6);
  let low = 0;
  let drop = 0;
  return Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => {
    low = dark * low + (1 - dark) * (2 * chance.next() - 1);
    if (drops > 0 && chance.is(drops / RATE)) drop = chance.next() ** 3;
    drop *= 0.996;
    return low * (0.6 + 0.4 * Math.sin((wander * i) / RATE + phase)) + drop * (2 * chance.next() - 1);
  });
}

for (let seed = Number(from); seed < Number(to); seed += Number(step)) {
  const path = join(folder, `f${seed}`);
  if (existsSync(`${path}.json`)) continue;
  const chance = new Chance(seed + 900_000);
  const seconds = chance.between(50, 85);
  const unmeasured = seed % UNMEASURED === 0;
  const noisy = unmeasured && chance.is(1 / NOISE);
  const piece = unmeasured
    ? composeUnmeasured(seed, seconds)
    : compose({
        seed,
        seconds,
        ...(seed % KEPT === 0 ? {} : { free: true, ...wishedStyle(seed) }),
      });
  const lead = chance.is(0.5) ? chance.between(0, 2) : 0.05;
  const { truth } = perform(piece, seed, lead);
  const guitars = piece.parts.filter((part) => !part.drums && GUITARS.includes(part.program));
  const others = piece.parts.filter((part) => !guitars.includes(part));
  const loud = seed % HEAVY === 3 && guitars.length > 0 && others.length > 0 && chance.is(AMPLIFIED);
  const sound = (parts) => play(path, perform({ ...piece, parts }, seed, lead).midi, chance);
  const samples = noisy
    ? noise(chance, seconds)
    : loud
      ? together(sound(others), amplified(sound(guitars), RATE, chance))
      : sound(piece.parts);
  // Each is heard twice, from recordings that went through other things.
  for (const [name, heard] of [
    [path, recorded(samples, RATE, chance, path)],
    [`${path}r`, recorded(samples, RATE, chance, path)],
  ]) {
    writeHeard(name, heard, { style: piece.style, beats: truth.beats, bars: truth.bars });
  }
}
