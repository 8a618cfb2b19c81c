import type { History, Montage } from '@bluster/core';

/** The montage as it last hung on another song than the one that is there now; null where nothing did. */
export function earlierMontage({ now, past }: History): Montage | null {
  const other = past.findLast(
    ({ montage: { song, shots, pegs } }) => song !== null && song.assetId !== now.song?.assetId && shots.length + pegs.length > 0,
  );
  return other?.montage ?? null;
}
