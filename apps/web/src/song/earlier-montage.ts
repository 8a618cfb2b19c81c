import { scoreOf, type History, type Montage } from '@bluster/core';

/** The montage as it last hung on another song than the one that is there now; null where nothing did. */
export function earlierMontage({ now, past }: History): Montage | null {
  const other = past.findLast(
    ({ montage: { song, shots, pegs } }) => song !== null && song.assetId !== now.song?.assetId && shots.length + pegs.length > 0,
  );
  return other?.montage ?? null;
}

/** What hangs in a montage, counted: its shots, or its slots where none of them is filled; null where nothing does. */
export function hungInWords(montage: Montage): string | null {
  const { slots } = scoreOf(montage);
  const filled = slots.filter((s) => s.placed).length;
  if (filled > 0) return `${filled} ${filled === 1 ? 'shot' : 'shots'}`;
  return montage.pegs.length > 0 ? `${slots.length} slots` : null;
}
