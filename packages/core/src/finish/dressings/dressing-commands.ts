import { command } from '../../document/command.ts';
import type { Dressing } from './dressing.ts';
import { dressedIn } from './dressed-in.ts';

export const dressingCommands = {
  /** in place of what it is dressed in; what was laid on one mark, shot or stretch by hand stays */
  wearDressing: command<{ dressing: Dressing }>('Change the dressing', (montage, { dressing }) => dressedIn(montage, dressing)),
};
