import { dressingCommands } from './dressings/dressing-commands.ts';
import { effectCommands } from './effect-commands.ts';
import { frameCommands } from './frame-commands.ts';
import { lookCommands } from './look-commands.ts';
import { moveCommands } from './move-commands.ts';
import { overCommands } from './over-commands.ts';
import { soundCommands } from './sound-commands.ts';
import { styleCommands } from './style-commands.ts';
import { titleCommands } from './title-commands.ts';
import { transitionCommands } from './transition-commands.ts';

export const finishCommands = {
  ...moveCommands,
  ...lookCommands,
  ...effectCommands,
  ...transitionCommands,
  ...titleCommands,
  ...styleCommands,
  ...overCommands,
  ...soundCommands,
  ...dressingCommands,
  ...frameCommands,
};
