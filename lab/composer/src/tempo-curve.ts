import type { Chance } from './chance.ts';
import type { Bar, Composition } from './composition.ts';

export type TempoCurve = 'machine' | 'drift' | 'rubato' | 'accelerating' | 'slowing' | 'sections';

/**
 * The tempo of a piece beat by beat.
 * @param seconds of a quarter note, to begin with
 * @param phrase bars in a phrase; rubato breathes with them
 * @param changes places (quarter notes) where a new section begins
 */
export function tempoCurve(
  chance: Chance,
  curve: TempoCurve,
  seconds: number,
  bars: readonly Bar[],
  length: number,
  phrase: number,
  changes: readonly number[],
): Composition['tempo'] {
  const steps: { at: number; seconds: number }[] = [];
  const final = chance.is(curve === 'machine' ? 0.1 : 0.5);
  const depth = chance.between(0.03, 0.16);
  const bend = chance.between(0.06, 0.35);
  let walk = 0;
  let section = 1;
  for (const [i, { at, metre }] of bars.entries()) {
    for (let b = 0; b < metre.beats; b++) {
      const place = at + b * metre.unit;
      if (place >= length) break;
      const part = place / length;
      const inPhrase = ((i % phrase) + b / metre.beats) / phrase;
      let factor = 1;
      if (curve === 'drift') {
        walk = walk * 0.97 + chance.normal(0.006);
        factor = 1 + walk;
      }
      if (curve === 'rubato') {
        walk = walk * 0.8 + chance.normal(0.012);
        factor = 1 + walk + depth * (2 * (inPhrase - 0.5)) ** 2 + (inPhrase > 0.85 ? depth : 0) - depth / 2;
      }
      if (curve === 'accelerating') factor = 1 - bend * part;
      if (curve === 'slowing') factor = 1 + bend * part;
      if (curve === 'sections') {
        if (b === 0 && changes.includes(at) && i > 0) section = chance.is(0.7) ? 1 + chance.between(-0.3, 0.3) : 1;
        factor = section;
      }
      if (final && i >= bars.length - 2) factor *= 1 + 0.3 * ((i - bars.length + 2 + b / metre.beats) / 2);
      steps.push({ at: place, seconds: seconds * factor });
    }
  }
  return steps;
}
