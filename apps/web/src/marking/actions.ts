import { montageNow, useEditor } from '../document/editor.ts';
import { actionsIn, type Action } from '../interface/action.ts';
import { player } from '../playback/player.ts';
import { chosenMarks, nudgeChosen } from './chosen.ts';
import { drawToOnsets, toggleLock } from './repairs.ts';

/** Where marks are chosen: on the lines or in the loupe. */
const mark = actionsIn(['song', 'score'], 'Mark');

/** Length of a frame, seconds. */
function frame(): number {
  const { num, den } = montageNow().shape.rate;
  return den / num;
}

export const markingActions: readonly Action[] = [
  mark('to-onset', 'Draw what is chosen to the nearest onset', 'x', () => drawToOnsets(chosenMarks())),
  mark('lock', 'Lock or unlock the chosen marks', 'shift+l', toggleLock),
  mark('nudge-back', 'Nudge the chosen marks 1 ms earlier', 'alt+left', () => nudgeChosen(-0.001)),
  mark('nudge-on', 'Nudge the chosen marks 1 ms later', 'alt+right', () => nudgeChosen(0.001)),
  mark('nudge-frame-back', 'Nudge the chosen marks a frame earlier', 'alt+shift+left', () => nudgeChosen(-frame())),
  mark('nudge-frame-on', 'Nudge the chosen marks a frame later', 'alt+shift+right', () => nudgeChosen(frame())),
  mark('add-mark', 'Add a beat at the playhead', 'm', () => {
    if (montageNow().song) useEditor.getState().run({ do: 'addMark', kind: 'beat', time: player.songTime() });
  }),
];
