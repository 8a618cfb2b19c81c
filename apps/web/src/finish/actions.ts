import { EFFECTS, EFFECT_KINDS } from '@bluster/core';
import { actionsIn, type Action } from '../interface/action.ts';
import { removeChosen, strike, toggleTransitionHere, writeTitle } from './finishing.ts';

const finish = actionsIn(['finish'], 'Dressing');

export const finishActions: readonly Action[] = [
  ...EFFECT_KINDS.map((kind) =>
    finish(`strike-${kind}`, `Lay a ${EFFECTS[kind].title} on the mark at the playhead, or remove it`, EFFECTS[kind].key, (event) =>
      strike(kind, event),
    ),
  ),
  finish('transition', 'Lay a transition on the nearest cut, or remove it', 'w', toggleTransitionHere),
  finish('write-title', 'Write a title from the mark at the playhead on', 'shift+t', writeTitle),
  finish('remove-dressing', 'Remove what is chosen', 'delete,backspace', removeChosen),
];
