import type { LevelPoint, Montage } from '../document/montage.ts';
import { placedMoment } from '../finish/placed-moment.ts';
import { firstFrom } from '../lists/first-from.ts';
import { onceFor } from '../lists/once-for.ts';

/** A point of a line of levels, in montage seconds; 1 is as it is. */
export interface PlacedLevel {
  readonly id: string;
  readonly time: number;
  readonly level: number;
}

/** The lines of a montage's levels, each in order. Points that are cut out of the song sleep. */
export const levelLines = onceFor((montage: Montage): Readonly<Record<LevelPoint['of'], readonly PlacedLevel[]>> => {
  const placed = (of: LevelPoint['of']): PlacedLevel[] =>
    montage.levels
      .flatMap((point) => {
        const place = point.of === of ? placedMoment(montage, point.at) : null;
        return place ? [{ id: point.id, time: place.time, level: point.level }] : [];
      })
      .sort((a, b) => a.time - b.time);
  return { song: placed('song'), clips: placed('clips') };
});

/** The level of a line at a moment, montage seconds: straight between its points, even before the first and after the last. */
export function levelAlong(line: readonly PlacedLevel[], time: number): number {
  if (line.length === 0) return 1;
  const after = firstFrom(line, (p) => p.time, time);
  const [a, b] = [line[after - 1], line[after]];
  if (!a) return b!.level;
  if (!b) return a.level;
  return a.level + (b.level - a.level) * ((time - a.time) / (b.time - a.time));
}
