import { arrangedLength, type Montage } from '@bluster/core';
/** Length of the montage in seconds; 0 without a song. */
export function montageLength(montage: Montage): number {
  return montage.song ? arrangedLength(montage.song.pieces) : 0;
}
