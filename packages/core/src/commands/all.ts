import { carryCommands } from '../carry/commands.ts';
import { montageCommands } from '../document/montage-commands.ts';
import { fillCommands } from '../fill/commands.ts';
import { finishCommands } from '../finish/commands.ts';
import { footageCommands } from '../footage/commands.ts';
import { markCommands } from '../marks/mark-commands.ts';
import { pulseCommands } from '../marks/pulse-commands.ts';
import { pegCommands } from '../pegs/commands.ts';
import { settleCommands } from '../settle/commands.ts';
import { retimeCommands } from '../shots/retime-commands.ts';
import { shotCommands } from '../shots/shot-commands.ts';
import { trimCommands } from '../shots/trim-commands.ts';
import { songCommands } from '../song/commands.ts';

/** Every edit there is, by name. Times are song seconds unless said otherwise. */
export const COMMANDS = {
  ...montageCommands,
  ...songCommands,
  ...markCommands,
  ...pulseCommands,
  ...footageCommands,
  ...pegCommands,
  ...shotCommands,
  ...trimCommands,
  ...retimeCommands,
  ...fillCommands,
  ...settleCommands,
  ...finishCommands,
  ...carryCommands,
};

export type CommandName = keyof typeof COMMANDS;
/** What a command asks for beside its name. */
export type Ask<N extends CommandName> = Parameters<(typeof COMMANDS)[N]['carryOut']>[1];
/** An edit as it is asked for: its name in `do`, and what it needs. */
export type Command = { [N in CommandName]: { readonly do: N } & Ask<N> }[CommandName];
