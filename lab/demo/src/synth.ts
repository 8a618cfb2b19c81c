/** Sample rate of all demo sound, Hz. */
export const RATE = 44100;

/** A stereo recording in the making. */
export class Tape {
  readonly left: Float32Array;
  readonly right: Float32Array;

  /** @param seconds its length */
  constructor(seconds: number) {
    this.left = new Float32Array(Math.ceil(seconds * RATE));
    this.right = new Float32Array(this.left.length);
  }

  /**
   * Adds a sound.
   * @param at seconds
   * @param length seconds
   * @param level 0 to 1
   * @param side -1 left to 1 right
   * @param wave the sample at so many seconds after its start
   */
  add(at: number, length: number, level: number, side: number, wave: (t: number) => number): void {
    const start = Math.round(at * RATE);
    const count = Math.round(length * RATE);
    const l = level * Math.sqrt((1 - side) / 2) * 1.41;
    const r = level * Math.sqrt((1 + side) / 2) * 1.41;
    for (let i = 0; i < count; i++) {
      const n = start + i;
      if (n < 0 || n >= this.left.length) continue;
      const fade = Math.min(1, (count - i) / 200);
      const v = wave(i / RATE) * fade;
      this.left[n]! += l * v;
      this.right[n]! += r * v;
    }
  }

  /** Interleaved 16 bit samples, softly limited and brought to just under full level. */
  toPcm(): Buffer {
    let peak = 1e-9;
    for (const side of [this.left, this.right])
      for (let i = 0; i < side.length; i++) peak = Math.max(peak, Math.abs((side[i] = Math.tanh(side[i]! * 1.1))));
    const out = Buffer.alloc(this.left.length * 4);
    for (let i = 0; i < this.left.length; i++) {
      out.writeInt16LE(Math.round((this.left[i]! / peak) * 0.9 * 32767), i * 4);
      out.writeInt16LE(Math.round((this.right[i]! / peak) * 0.9 * 32767), i * 4 + 2);
    }
    return out;
  }
}

/** Noise that is the same at every run. */
export function noiseSource(seed: number): () => number {
  let state = seed * 2654435761 + 12345;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) | 0;
    return state / 2147483648;
  };
}

/** Frequency of a MIDI note number, Hz. */
export const noteHz = (note: number): number => 440 * 2 ** ((note - 69) / 12);

const decay = (t: number, seconds: number): number => Math.exp(-t / seconds);

export function kick(): (t: number) => number {
  return (t) => Math.sin(2 * Math.PI * (48 * t + 14 * (1 - Math.exp(-t * 32)))) * decay(t, 0.13) + (t < 0.004 ? 0.5 * (1 - t / 0.004) : 0);
}

export function snare(seed: number): (t: number) => number {
  const n = noiseSource(seed);
  return (t) => 0.75 * n() * decay(t, 0.07) + 0.5 * Math.sin(2 * Math.PI * 190 * t) * decay(t, 0.05);
}

export function hat(seed: number, length = 0.03): (t: number) => number {
  const n = noiseSource(seed);
  let last = 0;
  return (t) => {
    const x = n();
    const high = x - last;
    last = x;
    return 0.6 * high * decay(t, length);
  };
}

export function crash(seed: number): (t: number) => number {
  const n = noiseSource(seed);
  let last = 0;
  return (t) => {
    const x = n();
    const high = x - 0.7 * last;
    last = x;
    return 0.5 * high * decay(t, 0.7);
  };
}

/** A bass note: saw tamed by a low-pass that closes. */
export function bass(hz: number, length: number): (t: number) => number {
  let low = 0;
  return (t) => {
    const saw = 2 * ((hz * t) % 1) - 1;
    low += (0.05 + 0.14 * decay(t, 0.12)) * (saw - low);
    return low * Math.min(1, t / 0.004) * Math.min(1, Math.max(0, (length - t) / 0.02));
  };
}

/** A chord of detuned saws that swells in. */
export function pad(notes: readonly number[], length: number, bright: number): (t: number) => number {
  const hz = notes.flatMap((n) => [noteHz(n) * 0.997, noteHz(n) * 1.003]);
  let low = 0;
  return (t) => {
    let sum = 0;
    for (const f of hz) sum += 2 * ((f * t) % 1) - 1;
    low += bright * (sum / hz.length - low);
    return low * Math.min(1, t / 0.03) * Math.min(1, Math.max(0, (length - t) / 0.08));
  };
}

/** A plucked string: a few harmonics that die away, the high ones first. */
export function pluck(hz: number, ring: number): (t: number) => number {
  return (t) => {
    let sum = 0;
    for (let k = 1; k <= 6; k++) sum += (Math.sin(2 * Math.PI * hz * k * t * (1 + 0.0004 * k * k)) / k) * decay(t, ring / k);
    return sum * Math.min(1, t / 0.0015);
  };
}

/** Wind that rises. */
export function riser(seed: number, length: number): (t: number) => number {
  const n = noiseSource(seed);
  let low = 0;
  return (t) => {
    low += (0.02 + 0.5 * (t / length) ** 2) * (n() - low);
    return low * (t / length) ** 2;
  };
}
