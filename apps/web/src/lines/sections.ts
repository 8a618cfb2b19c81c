import { toSongTime, type Line, type Montage, type SongPiece } from '@bluster/core';

/** The name of the section that a line starts in, or null. */
export function sectionAt(montage: Montage, pieces: readonly SongPiece[], line: Line): string | null {
  const time = toSongTime(pieces, line.from) + 0.4;
  return montage.song?.sections.findLast((s) => s.from <= time)?.name ?? null;
}
