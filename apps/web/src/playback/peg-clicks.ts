import { frameTime, scoreOf, type Montage } from '@bluster/core';
/** The moments of the montage at which pegs hang, for hearing them as clicks. */
export function pegClicks(montage: Montage): { time: number; bar: boolean }[] {
  return scoreOf(montage).pegs.flatMap((p) =>
    p.peg ? [{ time: frameTime(p.frame, montage.shape.rate), bar: p.mark?.kind === 'bar' || p.mark?.kind === 'drop' }] : [],
  );
}
