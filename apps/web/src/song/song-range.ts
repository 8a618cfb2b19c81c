import { toast } from 'sonner';
import { carryOut, titlesBroughtAlong, whatFallsOutside, type Montage, type Outside, type SongPiece } from '@bluster/core';
import { useEditor } from '../document/editor.ts';

const count = (n: number, of: number, one: string): string =>
  n === of && n > 1 ? `all ${n} ${one}s` : `${n} of ${of} ${of === 1 ? one : `${one}s`}`;

/** The montage with another stretch of the song in use. */
export const withRange = (montage: Montage, pieces: readonly SongPiece[]): Montage => carryOut(montage, { do: 'setSongRange', pieces });

/** What falls outside, in words; null where it is nothing. */
export function outsideInWords({ shots, titles, effects }: Outside): string | null {
  const parts = [
    shots.outside > 0 && count(shots.outside, shots.of, 'shot'),
    titles.outside > 0 && count(titles.outside, titles.of, 'title'),
    effects.outside > 0 && count(effects.outside, effects.of, 'effect'),
  ].filter((part) => part !== false);
  if (parts.length === 0) return null;
  const last = parts.pop()!;
  return parts.length > 0 ? `${parts.join(', ')} and ${last}` : last;
}

/** Uses another stretch of the song, with the titles that would fall outside brought along where wished, as one step. */
export function takeStretch(pieces: readonly SongPiece[], titlesAlong = false): boolean {
  return useEditor.getState().runAll('Set in and out of the song', (montage) => {
    const cut = withRange(montage, pieces);
    return titlesAlong ? titlesBroughtAlong(montage, cut).reduce(carryOut, cut) : cut;
  });
}

/** The same, saying afterwards what fell outside. */
export function trimSong(pieces: readonly SongPiece[]): void {
  const before = useEditor.getState().history.now;
  if (!takeStretch(pieces)) return;
  const outside = whatFallsOutside(before, useEditor.getState().history.now);
  const words = outsideInWords(outside);
  if (!words) return;
  const bring = (): void => {
    const { undo } = useEditor.getState();
    undo();
    takeStretch(pieces, true);
  };
  toast(`Outside the song in use now: ${words}. They sleep there, and wake when that stretch comes back.`, {
    id: 'outside',
    duration: 8000,
    ...(outside.titles.outside > 0 ? { action: { label: 'Bring the titles along', onClick: bring } } : {}),
  });
}
