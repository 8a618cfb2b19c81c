import { Chance } from './chance.ts';
import type { Composition, Note, Part } from './composition.ts';

/** Notes a second of each way to play without time. */
const DENSITIES = [0.4, 1, 2.5, 6, 14] as const;

/**
 * Music without a beat: notes of a few instruments at times that chance alone chooses, on a scale. Nothing in it repeats
 * itself in time, so a listener should find no pulse.
 * @param seconds length
 */
export function composeUnmeasured(seed: number, seconds: number): Composition {
  const chance = new Chance(seed + 31);
  const scale = chance.of([
    [0, 2, 4, 7, 9],
    [0, 2, 3, 5, 7, 8, 10],
    [0, 1, 4, 6, 8, 11],
  ]);
  const parts = Array.from({ length: chance.whole(1, 4) }, (_, i): Part => {
    const drums = chance.is(0.25);
    const density = chance.of(DENSITIES);
    const held = chance.between(0.1, 4);
    const low = chance.whole(36, 66);
    const notes: Note[] = [];
    for (let t = chance.between(0, 2); t < seconds; t -= Math.log(1 - chance.next()) / density) {
      const pitch = drums ? chance.whole(35, 81) : low + 12 * chance.whole(0, 1) + chance.of(scale);
      notes.push({ at: t, length: held * chance.between(0.3, 1.5), pitch, velocity: chance.whole(25, 115) });
    }
    return {
      program: drums ? 0 : chance.whole(0, 103),
      drums: drums && i === 0,
      volume: chance.whole(60, 120),
      notes,
      unsteady: 0,
      late: 0,
    };
  });
  // One second a quarter note: places are seconds.
  return { name: `unmeasured-${seed}`, style: 'unmeasured', parts, bars: [], length: seconds, tempo: [{ at: 0, seconds: 1 }] };
}
