import { MARKS, MARK_KINDS, trimPieces, type MarkKind } from '@bluster/core';
import { montageNow, useEditor } from '../document/editor.ts';
import { actionsIn, type Action } from '../interface/action.ts';
import { chosenMarks } from '../marking/chosen.ts';
import { goToDoubtful } from '../marking/repairs.ts';
import { player } from '../playback/player.ts';
import { trimSong } from './song-range.ts';
import { takeTap } from './tapping.ts';

const mark = actionsIn(['song'], 'Mark');

/** Takes a tap while the song plays; where it stands, kinds that are set one by one are put at the playhead. */
const tap = (kind: MarkKind) => (event?: KeyboardEvent) => {
  if (event?.repeat) return;
  if (player.state.playing) {
    takeTap(kind, event?.timeStamp ?? performance.now());
    return;
  }
  if (!montageNow().song || !(MARKS[kind].banded || MARKS[kind].worded)) return;
  // A still song is no reason to lose a mark.
  const time = player.songTime();
  const { run, select } = useEditor.getState();
  if (!run({ do: 'addMark', kind, time })) return;
  const there = montageNow().marks.filter((m) => m.kind === kind && Math.abs(m.time - time) < 1e-6);
  select({ markIds: there.map((m) => m.id), range: null });
};

function setEdge(edge: 'in' | 'out'): void {
  const { song } = montageNow();
  if (song) trimSong(trimPieces(song.pieces, edge, player.songTime()));
}

function removeChosen(): void {
  const { selection, run, select } = useEditor.getState();
  const ids = chosenMarks();
  if (ids.length > 0) run({ do: 'removeMarks', ids });
  if (!selection.range) select({ markIds: [] });
}

export const songActions: readonly Action[] = [
  ...MARK_KINDS.map((kind) => mark(`tap-${kind}`, MARKS[kind].tap, MARKS[kind].key, tap(kind))),
  mark('doubtful-on', 'To the next doubtful beat', 'n', () => goToDoubtful(1)),
  mark('doubtful-back', 'To the doubtful beat before', 'shift+n', () => goToDoubtful(-1)),
  mark('set-in', 'The song starts here', 'i', () => setEdge('in')),
  mark('set-out', 'The song ends here', 'o', () => setEdge('out')),
  mark('remove-marks', 'Remove the chosen marks', 'delete,backspace', removeChosen),
];
