import { montageNow } from '../document/editor.ts';
import { HEARD, actionsIn, type Action, type View } from '../interface/action.ts';
import { turnDisplay, turnWindow } from '../workbench/picture-size.ts';
import { stepFrames } from './screen.tsx';

/** Where there is a picture to look at. */
const SCREENED: readonly View[] = ['footage', 'score', 'finish'];
const step = actionsIn(HEARD, 'Play');
const size = actionsIn(SCREENED, 'Everything');

export const screenActions: readonly Action[] = [
  step('frame-back', 'One frame back', 'comma,left', () => stepFrames(montageNow(), -1)),
  step('frame-on', 'One frame on', 'period,right', () => stepFrames(montageNow(), 1)),
  size('window', 'The picture over the whole window, or back', 'shift+w', turnWindow),
  size('display', 'The picture on the whole display, or back', 'shift+e', turnDisplay),
];
