import { command } from '../document/command.ts';
import type { Montage } from '../document/montage.ts';
import { carriedOver, type CarryWish } from './carry-over.ts';

export const carryCommands = {
  /** a montage of another song: an earlier one of this project, or a template's; what hung here makes way */
  carryOver: command<{ source: Montage; wish: CarryWish }>(
    'Lay a montage over the song',
    (montage, { source, wish }) => carriedOver(source, montage, wish).montage,
  ),
};
