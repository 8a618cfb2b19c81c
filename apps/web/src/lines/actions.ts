import { BARS_A_LINE } from '@bluster/core';
import { useEditor } from '../document/editor.ts';
import { HEARD, actionsIn, type Action } from '../interface/action.ts';
import { jumpBeat, toggleLoopLine } from './loop-line.ts';

const play = actionsIn(HEARD, 'Play');
const lay = actionsIn(HEARD, 'Everything');

export const lineActions: readonly Action[] = [
  play('beat-back', 'To the beat before', 'shift+left', () => jumpBeat(-1)),
  play('beat-on', 'To the next beat', 'shift+right', () => jumpBeat(1)),
  play('loop', 'Loop the line', 'r', toggleLoopLine),
  ...BARS_A_LINE.map((bars) =>
    lay(`bars-${bars}`, `${bars} ${bars === 1 ? 'bar' : 'bars'} a line`, undefined, () => useEditor.getState().setBarsALine(bars)),
  ),
];
