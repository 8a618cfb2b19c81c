import { command } from '../document/command.ts';
import type { SettleOptions, SettlePlan } from './settle.ts';
import { takeSettle } from './take-settle.ts';
import { loosened } from './variety.ts';

export const settleCommands = {
  loosenCuts: command<{ seed: number; share: number }>('Loosen the rhythm', (montage, { seed, share }) => loosened(montage, seed, share)),
  /** as planned for this montage */
  takeSettle: command<{ plan: SettlePlan; options: SettleOptions }>('Settle cuts on marks', (montage, { plan, options }) =>
    takeSettle(montage, plan, options),
  ),
};
