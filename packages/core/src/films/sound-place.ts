import { Fft } from '../music/fft.ts';

/** Transforms of the sizes that were asked for: making one's tables takes as long as using it. */
const transforms = new Map<number, Fft>();

function transformOf(size: number): Fft {
  const made = transforms.get(size) ?? new Fft(size);
  transforms.set(size, made);
  return made;
}

const energyOf = (samples: Float32Array): number => samples.reduce((sum, sample) => sum + sample * sample, 0);

/** How two sounds lie to each other. */
export interface SoundPlace {
  /** how much later the first is, seconds */
  readonly late: number;
  /** how alike they are there: 1 is the same, up to loudness; 0 nothing in common */
  readonly likeness: number;
}

/**
 * Where a sound lies against one that it should be the same as, by their cross-correlation, to a part of a sample: the highest
 * place and its neighbours lie on a parabola.
 * @param heard samples, one channel
 * @param meant as many, where they should be
 * @param rate Hz
 * @param most how far it is looked for, seconds
 * @returns null where either is silent
 */
export function soundPlace(heard: Float32Array, meant: Float32Array, rate: number, most: number): SoundPlace | null {
  const size = 2 ** Math.ceil(Math.log2(heard.length + meant.length));
  const fft = transformOf(size);
  const energies = [energyOf(heard), energyOf(meant)] as const;
  if (energies[0] < 1e-9 * heard.length || energies[1] < 1e-9 * meant.length) return null;
  // Both are real: one transform is enough for the two, which are its even and its odd half.
  const [both, bothIm] = [new Float64Array(size), new Float64Array(size)];
  both.set(heard);
  bothIm.set(meant);
  fft.transform(both, bothIm);
  const [re, im] = [new Float64Array(size), new Float64Array(size)];
  for (let k = 0; k < size; k++) {
    const back = (size - k) % size;
    const [aRe, aIm] = [both[k]! + both[back]!, bothIm[k]! - bothIm[back]!];
    const [bRe, bIm] = [bothIm[k]! + bothIm[back]!, both[back]! - both[k]!];
    re[k] = (aRe * bRe + aIm * bIm) / 4;
    // Turned the other way round, the same transform leads back.
    im[k] = -(aIm * bRe - aRe * bIm) / 4;
  }
  fft.transform(re, im);
  const at = (lag: number): number => re[(lag + size) % size]! / size;
  const reach = Math.min(Math.round(most * rate), heard.length - 1);
  let best = -reach;
  for (let lag = -reach; lag <= reach; lag++) if (at(lag) > at(best)) best = lag;
  const [before, top, after] = [at(best - 1), at(best), at(best + 1)];
  const bend = before - 2 * top + after;
  const part = bend < 0 ? (0.5 * (before - after)) / bend : 0;
  return { late: (best + part) / rate, likeness: top / Math.sqrt(energies[0] * energies[1]) };
}
