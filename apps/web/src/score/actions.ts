import { montageNow, NOTHING, useEditor } from '../document/editor.ts';
import { actionsIn, type Action } from '../interface/action.ts';
import { heardMoment } from '../playback/heard-moment.ts';
import { player } from '../playback/player.ts';
import { rollChosen } from './cut/cut-view.tsx';
import { trimLive } from './cut/live-trims.tsx';
import { togglePegAt } from './pegs/toggle-peg.ts';
import { hangOverPlayhead, hangWatched, insertWatched, replaceAtPlayhead } from './shot/hanging.ts';
import { chooseBeside, closeUpChosen, copyChosen, halveChosen, lockChosen, pasteCopied, slideChosen } from './shot/shot-actions.ts';

const score = actionsIn(['score'], 'Pegs and shots');

/** Removes the chosen peg, marks or shot, in this order. */
function removeChosen(): void {
  const { selection, run, select } = useEditor.getState();
  if (selection.pegId) run({ do: 'removePeg', id: selection.pegId });
  else if (selection.markIds.length > 0) run({ do: 'removeMarks', ids: selection.markIds });
  else if (selection.slotStart) {
    const shot = montageNow().shots.find((s) => s.startPeg === selection.slotStart);
    if (shot) run({ do: 'takeDownShot', id: shot.id });
  }
  select({ ...NOTHING, slotStart: selection.slotStart });
}

export const scoreActions: readonly Action[] = [
  score('peg', 'Hang or remove a peg at the playhead', 'p', (event) => togglePegAt(montageNow(), heardMoment(event), player.state.playing)),
  score('end-shot', 'End the shot under the playhead here', 'e', (event) => trimLive('endShotAt', event)),
  score('start-next', 'Start the next shot here', 'w', (event) => trimLive('startNextAt', event)),
  score('roll-back', 'Roll the chosen cut to the mark before', 'bracketleft', () => rollChosen('before')),
  score('roll-on', 'Roll the chosen cut to the next mark', 'bracketright', () => rollChosen('after')),
  score('roll-frame-back', 'Roll the chosen cut one frame earlier', 'shift+bracketleft', () => rollChosen(-1)),
  score('roll-frame-on', 'Roll the chosen cut one frame later', 'shift+bracketright', () => rollChosen(1)),
  score('slide-back', 'Slide the chosen shot to the beat before', 'alt+bracketleft', () => slideChosen('before')),
  score('slide-on', 'Slide the chosen shot to the beat after', 'alt+bracketright', () => slideChosen('after')),
  score('halve-slot', 'Divide the chosen slot in half', 's', halveChosen),
  score('hang-in', 'Hang the watched clip from its frame on', 'd', () => hangWatched('in')),
  score('hang-out', 'Hang the watched clip up to its frame', 'shift+d', () => hangWatched('out')),
  score('hang-hit', 'Hang the watched clip with its frame on the mark', 'f', () => hangWatched('hit')),
  score('replace-here', 'Replace the shot at the playhead by the watched clip', 'v', replaceAtPlayhead),
  score('insert', 'Insert the watched clip, moving the rest on', 'g', insertWatched),
  score('over', 'Lay the watched clip over the playhead', 'b', hangOverPlayhead),
  score('close-up', 'Take the chosen shot out and close up', 'shift+delete', closeUpChosen),
  score('lock-shots', 'Lock or unlock the chosen shots', 'shift+k', lockChosen),
  score('slot-on', 'Choose the next slot', 'shift+down', () => chooseBeside(1)),
  score('slot-back', 'Choose the slot before', 'shift+up', () => chooseBeside(-1)),
  score('copy', 'Copy the chosen shot', 'shift+c', copyChosen),
  score('paste', 'Hang the copied shot in the chosen slot', 'shift+v', pasteCopied),
  score('remove', 'Remove what is chosen', 'delete,backspace', removeChosen),
];
