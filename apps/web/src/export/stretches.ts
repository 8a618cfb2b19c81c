import { chaptersOf, shortClock, type Montage } from '@bluster/core';
import { montageLength } from '../document/montage-length.ts';
import type { OfferedStretch } from './making.ts';

/** Stretches of a montage that can be filmed: all of it, what is looped, and its sections. */
export function stretchesOf(montage: Montage, loop: { readonly from: number; readonly to: number } | null): OfferedStretch[] {
  const length = montageLength(montage);
  const sections = chaptersOf(montage, 0, length);
  const again = new Map<string, number>();
  return [
    { key: 'all', title: `all, ${shortClock(length)}`, stretch: undefined },
    ...(loop ? [{ key: 'loop', title: `looped, ${shortClock(loop.to - loop.from)}`, stretch: { from: loop.from, to: loop.to } }] : []),
    ...(sections.length > 1
      ? sections.map(({ title, from, to }) => {
          const nth = (again.get(title) ?? 0) + 1;
          again.set(title, nth);
          return { key: `${title} ${nth}`, title: nth > 1 ? `${title} (${nth})` : title, stretch: { from, to } };
        })
      : []),
  ];
}
