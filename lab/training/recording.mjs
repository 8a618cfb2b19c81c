// What a piece goes through before it is heard as a recording: a room, other sounds, mixing and mastering, a codec.
import { spawnSync } from 'node:child_process';
import { unlinkSync } from 'node:fs';

const { abs, exp, max, round, sqrt, tanh } = Math;
const decibels = (d) => 10 ** (d / 20);

function peakOf(samples) {
  let peak = 1e-6;
  for (const v of samples) peak = max(peak, abs(v));
  return peak;
}

function loudnessOf(samples) {
  let sum = 1e-12;
  for (const v of samples) sum += v * v;
  return sqrt(sum / samples.length);
}

/** A room: reflections at chance moments that die away (velvet noise: H. Järveläinen and M. Karjalainen, "Reverberation modeling using velvet noise", AES 2007). */
function room(samples, rate, chance) {
  const decay = chance.between(0.1, 0.5);
  const wet = chance.between(0.15, 0.8);
  const out = Float32Array.from(samples);
  const taps = 48;
  for (let k = 0; k < taps; k++) {
    const delay = 0.004 + (2.2 * decay * (k + chance.next())) / taps;
    const gain = (wet / sqrt(taps / 6)) * exp(-delay / decay) * (chance.is(0.5) ? 1 : -1);
    const shift = round(delay * rate);
    for (let i = shift; i < out.length; i++) out[i] += gain * samples[i - shift];
  }
  return out;
}

/** A compressor that follows the level, after M. Giannoulis, M. Massberg and J. Reiss, "Digital dynamic range compressor design", JAES 2012. */
function compressed(samples, rate, chance) {
  const threshold = loudnessOf(samples) * decibels(chance.between(-8, 8));
  const slope = 1 - 1 / chance.between(2, 12);
  const rise = exp(-1 / (rate * chance.between(0.001, 0.02)));
  const fall = exp(-1 / (rate * chance.between(0.05, 0.35)));
  let level = 0;
  return samples.map((v) => {
    const a = abs(v);
    level = a > level ? rise * level + (1 - rise) * a : fall * level + (1 - fall) * a;
    return level > threshold ? v * (threshold / level) ** slope : v;
  });
}

/** As loud as it goes: driven into a soft or a hard ceiling. */
function mastered(samples, chance) {
  const drive = decibels(chance.between(0, 14)) / peakOf(samples);
  const soft = chance.is(0.6);
  return samples.map((v) => (soft ? tanh(v * drive) : max(-1, Math.min(1, v * drive))));
}

/** People, wind and hiss beside it, at a wandering level. */
function withNoise(samples, rate, chance) {
  const level = loudnessOf(samples) * decibels(chance.between(-36, -6));
  const dark = chance.between(0, 0.98);
  const steady = 1 / sqrt((1 - dark) / (1 + dark) / 3 + 1e-9);
  const wander = chance.between(0.1, 4);
  const depth = chance.between(0, 0.8);
  let low = 0;
  return samples.map((v, i) => {
    low = dark * low + (1 - dark) * (2 * chance.next() - 1);
    return v + level * steady * low * (1 + depth * Math.sin((wander * i) / rate));
  });
}

/** One pole each way: small loudspeakers, old recordings, a cover over the microphone. */
function narrowed(samples, rate, chance) {
  const high = chance.is(0.5) ? 1 - exp((-2 * Math.PI * chance.between(1500, 6000)) / rate) : 1;
  const low = chance.is(0.5) ? 1 - exp((-2 * Math.PI * chance.between(60, 400)) / rate) : 0;
  let [a, b] = [0, 0];
  return samples.map((v) => {
    a += high * (v - a);
    b += low * (a - b);
    return a - b;
  });
}

/** Through a codec at a low rate of bits; a file between, because only there the codec's delay is taken off again. */
function coded(samples, rate, chance, path) {
  const kbits = chance.of([32, 40, 48, 64, 96]);
  const file = `${path}.mp3`;
  const raw = ['-f', 'f32le', '-ar', String(rate), '-ac', '1'];
  const input = Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength);
  spawnSync('ffmpeg', ['-v', 'error', '-y', ...raw, '-i', '-', '-b:a', `${kbits}k`, file], { input });
  const bytes = spawnSync('ffmpeg', ['-v', 'error', '-i', file, ...raw, '-'], { maxBuffer: 2 ** 30 }).stdout;
  unlinkSync(file);
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
}

/** Distorted guitars of the General MIDI sound set. */
export const GUITARS = [29, 30];

/** Two sounds at once. */
export const together = (a, b) => Float32Array.from({ length: Math.max(a.length, b.length) }, (_, i) => (a[i] ?? 0) + (b[i] ?? 0));

/** Guitars through an amplifier that is driven hard, and the loudspeaker that takes the top off again. */
export function amplified(samples, rate, chance) {
  const drive = decibels(chance.between(10, 36)) / peakOf(samples);
  const keep = 1 - exp((-2 * Math.PI * chance.between(2500, 6000)) / rate);
  const level = peakOf(samples) * chance.between(0.4, 1);
  let low = 0;
  return samples.map((v) => {
    low += keep * (tanh(v * drive) - low);
    return level * low;
  });
}

/**
 * What a recording of a piece might sound like.
 * @param samples one channel, Hz `rate`
 * @param path to which a file's ending can be added
 */
export function recorded(samples, rate, chance, path) {
  let heard = samples;
  if (chance.is(0.35)) heard = room(heard, rate, chance);
  if (chance.is(0.3)) heard = withNoise(heard, rate, chance);
  if (chance.is(0.2)) heard = narrowed(heard, rate, chance);
  if (chance.is(0.6)) heard = compressed(heard, rate, chance);
  if (chance.is(0.6)) heard = mastered(heard, chance);
  const loud = decibels(chance.between(-14, 0)) / peakOf(heard);
  heard = heard.map((v) => v * loud);
  return chance.is(0.35) ? coded(heard, rate, chance, path) : heard;
}
