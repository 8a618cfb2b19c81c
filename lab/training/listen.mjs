// Composes pieces, plays them through the General MIDI sound font and writes what the beat network will hear of them, with
// the truth, for train.py. Debian's fluidsynth and fluid-soundfont-gm are needed; the application must be built.
// usage: node training/listen.mjs FOLDER FROM TO [STEP]     pieces FROM, FROM + STEP, ... below TO; those there are kept
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, unlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Chance, compose, composeUnmeasured, perform } from '../composer/dist/index.js';
import { OnsetMeter } from '../../packages/core/dist/music/onset-strength.js';
import { recorded } from './recording.mjs';

const RATE = 22050;
const SOUND_FONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2';
/** One piece in so many has no beat, and one in so many of those is noise. */
const UNMEASURED = 14;
const NOISE = 3;
/** One piece in so many keeps to one style. */
const KEPT = 3;
/** One in so many is plain, so that the network learns what tells a bar where there is next to nothing. */
const PLAIN = 6;
/** One in so many is as only a sequencer would play it. */
const SEQUENCED = 4;

const [folder, from, to, step = '1'] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });

function wishedStyle(seed) {
  if (seed % PLAIN === 1) return { style: 'plain' };
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

function play(name, midi, chance) {
  const path = join(folder, name);
  writeFileSync(`${path}.mid`, midi);
  const room = chance.is(0.7) ? [] : ['-R', '0'];
  const gain = chance.between(0.25, 1).toFixed(2);
  spawnSync(
    'fluidsynth',
    ['-ni', '-q', ...room, '-g', gain, '-r', String(RATE), '-O', 'float', '-F', `${path}.wav`, SOUND_FONT, `${path}.mid`],
    {
      stdio: 'ignore',
    },
  );
  const bytes = spawnSync('ffmpeg', ['-v', 'error', '-i', `${path}.wav`, '-ac', '1', '-f', 'f32le', '-'], { maxBuffer: 2 ** 30 }).stdout;
  unlinkSync(`${path}.wav`);
  unlinkSync(`${path}.mid`);
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
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
  const { midi, truth } = perform(piece, seed, chance.is(0.5) ? chance.between(0, 2) : 0.05);
  const samples = noisy ? noise(chance, seconds) : play(`f${seed}`, midi, chance);
  // Each is heard twice, from recordings that went through other things.
  for (const [name, heard] of [
    [path, recorded(samples, RATE, chance, path)],
    [`${path}r`, recorded(samples, RATE, chance, path)],
  ]) {
    const meter = new OnsetMeter(RATE);
    meter.push(heard);
    const { onsets } = meter.finish();
    // Training looks at what detection keeps to itself.
    const { pools } = meter['kernel'];
    writeFileSync(
      `${name}.u16`,
      Uint16Array.from(onsets.pulse, (v) => Math.min(65535, Math.round(v * 16384))),
    );
    writeFileSync(
      `${name}.json`,
      JSON.stringify({ style: piece.style, width: onsets.pulseWidth, P: pools[0], Q: pools[1], beats: truth.beats, bars: truth.bars }),
    );
  }
}
