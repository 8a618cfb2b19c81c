// From MIDI to what the beat network hears of it: Debian's fluidsynth and its General MIDI sound font play it.
import { spawnSync } from 'node:child_process';
import { unlinkSync, writeFileSync } from 'node:fs';
import { OnsetMeter } from '../../packages/core/dist/music/onset-strength.js';

/** Samples a second. */
export const RATE = 22050;
const SOUND_FONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2';

/**
 * Plays a MIDI file to samples of one channel.
 * @param {string} path to which endings can be added, for files on the way
 * @param {Uint8Array} midi
 * @param {import('../composer/dist/index.js').Chance} chance
 * @param {{ seconds?: number, rate?: number, dry?: boolean }} [how] seconds at most; dry leaves the room away, else it is left to chance
 */
export function play(path, midi, chance, { seconds, rate = RATE, dry = !chance.is(0.7) } = {}) {
  writeFileSync(`${path}.mid`, midi);
  const room = dry ? ['-R', '0'] : [];
  const gain = chance.between(0.25, 1).toFixed(2);
  spawnSync(
    'fluidsynth',
    ['-ni', '-q', ...room, '-g', gain, '-r', String(rate), '-O', 'float', '-F', `${path}.wav`, SOUND_FONT, `${path}.mid`],
    { stdio: 'ignore' },
  );
  const limit = seconds === undefined ? [] : ['-t', String(seconds)];
  const bytes = spawnSync('ffmpeg', ['-v', 'error', '-i', `${path}.wav`, ...limit, '-ac', '1', '-f', 'f32le', '-'], {
    maxBuffer: 2 ** 30,
  }).stdout;
  unlinkSync(`${path}.wav`);
  unlinkSync(`${path}.mid`);
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
}

/**
 * Writes what the network hears of some samples, with the truth, for train.py.
 * @param {string} path without ending
 * @param {Float32Array} samples at RATE
 * @param {{ style: string, beats: readonly number[], bars: readonly number[] }} truth seconds
 */
export function writeHeard(path, samples, { style, beats, bars }) {
  const meter = new OnsetMeter(RATE);
  meter.push(samples);
  const { onsets } = meter.finish();
  // Training looks at what detection keeps to itself.
  const { pools } = meter['kernel'];
  writeFileSync(
    `${path}.u16`,
    Uint16Array.from(onsets.pulse, (v) => Math.min(65535, Math.round(v * 16384))),
  );
  writeFileSync(`${path}.json`, JSON.stringify({ style, width: onsets.pulseWidth, P: pools[0], Q: pools[1], beats, bars }));
}
