import type { Montage } from '@bluster/core';
import { montageNow, useEditor } from '../document/editor.ts';

/** Moves the chosen marks. @param by seconds */
export function nudgeChosen(by: number): void {
  const { selection, run } = useEditor.getState();
  if (selection.markIds.length > 0) run({ do: 'moveMarks', ids: selection.markIds, by });
}

/** The marks of a stretch of the song that were put there on purpose: all but accents. */
function marksOfRange(montage: Montage, range: { from: number; to: number }): string[] {
  return montage.marks.filter((m) => m.kind !== 'accent' && m.time >= range.from && m.time <= range.to).map((m) => m.id);
}

/** The chosen marks, or those of the chosen stretch. */
export function chosenMarks(): readonly string[] {
  const { selection } = useEditor.getState();
  return selection.range ? marksOfRange(montageNow(), selection.range) : selection.markIds;
}
