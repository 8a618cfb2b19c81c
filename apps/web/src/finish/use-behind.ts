import { useEffect, useState } from 'react';
import { placedTitles, type Montage, type Title } from '@bluster/core';
import { useRested } from '../interface/use-rested.ts';
import { behindTitles } from '../screen/behind.ts';

const RESTED_MS = 250;

/** What lies behind a title in the middle of its time, and that frame; null while it is not known. */
export function useBehind(title: Title, montage: Montage): { readonly frame: number; readonly pixels: ImageData } | null {
  const [seen, setSeen] = useState<{ frame: number; pixels: ImageData } | null>(null);
  // While something is dragged there is no need to look again and again.
  const rested = useRested(montage, RESTED_MS);
  useEffect(() => {
    const placed = placedTitles(rested).find((t) => t.title.id === title.id);
    if (!placed) return;
    let gone = false;
    const frame = (placed.from + placed.to) >> 1;
    void behindTitles(frame).then((pixels) => gone || setSeen(pixels && { frame, pixels }));
    return () => {
      gone = true;
    };
  }, [title.id, rested]);
  return seen;
}
