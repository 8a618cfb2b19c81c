import type { Chance } from './chance.ts';
import type { Metre } from './composition.ts';
import type { DrumStroke } from './drums.ts';
import { barLength, pulse, rhythm, type Stroke } from './rhythm.ts';

/** General MIDI percussion that sequencers' kits have where a band has a kick, a snare and a hat: the usual sound first. */
const LOW = [36, 36, 36, 35, 41, 43, 45, 64, 66] as const;
const BACK = [38, 40, 40, 39, 37, 54, 56, 62, 50] as const;
const TIME = [42, 42, 44, 46, 38, 40, 54, 56, 69, 69, 70, 75, 51] as const;
const MORE = [37, 39, 40, 41, 48, 50, 54, 56, 60, 61, 62, 63, 64, 67, 69, 70, 75, 76] as const;

/**
 * One bar of drums as sequencers stack them: every stroke about as loud, sounds taken from anywhere in the kit, the low
 * voice as likely off the beat as on it. What tells the beat is what repeats and where the other parts change.
 */
export function sequencedDrums(chance: Chance, metre: Metre, lean: number): DrumStroke[] {
  const length = barLength(metre);
  const parts = metre.unit === 1.5 ? 3 : 4;
  const beats = pulse(metre, 1);
  const free = (density: number): Stroke[] => rhythm(chance, metre, chance.of([2, parts, parts]), density, lean);
  const low = chance.weighed([
    [beats, 2],
    [[...beats.filter((_, i) => i % 2 === 0), ...free(0.2)], 3],
    [free(0.3), 3],
  ] as const);
  const back = chance.weighed([
    [beats.filter((_, i) => i % 2 === 1), 4],
    [beats.filter((_, i) => i === Math.floor(metre.beats / 2)), 2],
    [free(0.2), 2],
    [[], 1.5],
  ] as const);
  const time = chance.weighed([
    [pulse(metre, parts), 3],
    [pulse(metre, 2), 2],
    [pulse(metre, 2).filter((_, i) => i % 2 === 1), 1.5],
    [pulse(metre, parts).filter((s) => s.at === 0 || chance.is(0.65)), 3],
    [[], 1],
  ] as const);
  const layers = [
    [chance.of(LOW), low],
    [chance.of(BACK), back],
    [chance.of(TIME), time],
    ...Array.from({ length: chance.of([0, 0, 1, 2]) }, () => [chance.of(MORE), free(chance.between(0.1, 0.4))] as const),
  ] as const;
  return layers.flatMap(([sound, strokes]) => {
    const strength = chance.between(0.6, 1);
    const places = new Set<number>();
    return strokes.flatMap((s) => {
      const place = Math.round(s.at * 48);
      if (places.has(place) || s.at >= length - 1e-6) return [];
      places.add(place);
      return [{ sound, at: s.at, length: s.length, strength }];
    });
  });
}
