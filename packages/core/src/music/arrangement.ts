/** A stretch of the song in use, song seconds. The arranged song is its pieces one after the other. */
export interface SongPiece {
  readonly from: number;
  readonly to: number;
}

/** The shortest that a song is made, seconds. */
export const SHORTEST_ARRANGED_S = 5;
/** The longest that it fades in or out, seconds. */
export const LONGEST_FADE_S = 30;

/**
 * Length of the arranged song, seconds.
 * @returns 0 for no pieces
 */
export function arrangedLength(pieces: readonly SongPiece[]): number {
  return pieces.reduce((sum, piece) => sum + (piece.to - piece.from), 0);
}

/**
 * Montage time of a moment of the song, or null where it was cut out. The end of a piece belongs to the next one.
 * @param pieces in the order in which they are heard, song seconds
 * @example
 * toMontageTime([{ from: 10, to: 20 }, { from: 40, to: 50 }], 42) // 12
 * toMontageTime([{ from: 10, to: 20 }, { from: 40, to: 50 }], 30) // null
 */
export function toMontageTime(pieces: readonly SongPiece[], songTime: number): number | null {
  let before = 0;
  // By index: this is asked for every mark and peg at every edit.
  for (let i = 0; i < pieces.length; i++) {
    const piece = pieces[i]!;
    const last = i === pieces.length - 1;
    if (songTime >= piece.from - 1e-9 && (songTime < piece.to || (last && songTime <= piece.to + 1e-9)))
      return Math.max(0, before + songTime - piece.from);
    before += piece.to - piece.from;
  }
  return null;
}

/**
 * The moment of the song heard at a montage time; held to the arranged song's ends.
 * @returns seconds; 0 where there are no pieces
 * @example
 * toSongTime([{ from: 10, to: 20 }, { from: 40, to: 50 }], 12) // 42
 */
export function toSongTime(pieces: readonly SongPiece[], montageTime: number): number {
  let before = 0;
  for (const piece of pieces) {
    const length = piece.to - piece.from;
    if (montageTime < before + length) return piece.from + Math.max(0, montageTime - before);
    before += length;
  }
  return pieces.at(-1)?.to ?? 0;
}

/**
 * The pieces with another start or end, song seconds; joins that lie outside it go, those inside stay.
 * @returns none where there were none; an edge beyond all of them leaves the piece at that end
 */
export function trimPieces(pieces: readonly SongPiece[], edge: 'in' | 'out', time: number): SongPiece[] {
  if (edge === 'in') {
    const left = pieces.filter((p) => p.to > time);
    const [first, ...rest] = left.length > 0 ? left : pieces.slice(-1);
    // In a stretch that was cut out the song starts with the next piece; before all of them the first one grows.
    return first ? [{ from: first === pieces[0] ? time : Math.max(first.from, time), to: first.to }, ...rest] : [];
  }
  const left = pieces.filter((p) => p.from < time);
  const last = left.at(-1) ?? pieces[0];
  return last ? [...left.slice(0, -1), { from: last.from, to: last === pieces.at(-1) ? time : Math.min(last.to, time) }] : [];
}
