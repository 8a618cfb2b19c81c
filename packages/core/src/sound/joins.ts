import type { SongPiece } from '../music/arrangement.ts';

/** Over how long one piece of the song gives way to the next, seconds. */
export const JOIN_FADE_S = 0.03;

/** A piece of the song as it is played: with the moments before its start that fade in under the end of the one before. */
export interface PlayedPiece {
  /** montage time at which it begins to sound, seconds */
  readonly at: number;
  /** song time that sounds there */
  readonly from: number;
  readonly length: number;
  /** seconds over which it comes in and goes out; 0 where it has no neighbour to share the time with */
  readonly fadeIn: number;
  readonly fadeOut: number;
}

/**
 * The pieces of an arranged song with their joins: a piece fades out over its last 30 ms, while the next one fades in
 * from what comes before its start, so that the beat on which they meet is heard once and whole.
 * @returns seconds; none for no pieces
 */
export function playedPieces(pieces: readonly SongPiece[]): PlayedPiece[] {
  let before = 0;
  return pieces.map((piece, i) => {
    const meets = (a: SongPiece | undefined, b: SongPiece | undefined): number =>
      !a || !b || Math.abs(a.to - b.from) < 1e-6 ? 0 : Math.min(JOIN_FADE_S, b.from, (a.to - a.from) / 2, (b.to - b.from) / 2);
    const fadeIn = meets(pieces[i - 1], piece);
    const fadeOut = meets(piece, pieces[i + 1]);
    const played = { at: before - fadeIn, from: piece.from - fadeIn, length: piece.to - piece.from + fadeIn, fadeIn, fadeOut };
    before += piece.to - piece.from;
    return played;
  });
}

/**
 * How loud a piece is so many seconds after it began to sound: equal power on both sides of a join.
 * @param time seconds
 * @returns 0 to 1, as a factor of amplitude
 */
export function pieceLevel(piece: PlayedPiece, time: number): number {
  const rising = piece.fadeIn > 0 && time < piece.fadeIn ? Math.sin((Math.PI / 2) * (time / piece.fadeIn)) : 1;
  const left = piece.length - time;
  const falling = piece.fadeOut > 0 && left < piece.fadeOut ? Math.sin((Math.PI / 2) * Math.max(0, left / piece.fadeOut)) : 1;
  return rising * falling;
}
