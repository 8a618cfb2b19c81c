import { withoutGaps } from './gaps.ts';
import { takePlan } from './fill.ts';
import type { Handlers } from './command.ts';
import { layRun } from './lay-run.ts';
import { takeSettle } from './take-settle.ts';
import { loosened } from './variety.ts';

/** Commands that change many cuts or shots at once by a plan of their own. */
export const scoreCommands: Handlers<'takeFill' | 'remedyGaps' | 'loosenCuts' | 'layRun' | 'takeSettle'> = {
  takeFill: (montage, { plan }) => takePlan(montage, plan),
  remedyGaps: (montage, { startPegs, remedy }) => withoutGaps(montage, startPegs, remedy),
  loosenCuts: (montage, { seed, share }) => loosened(montage, seed, share),
  layRun: (montage, { run, at }) => layRun(montage, run, at).montage,
  takeSettle: (montage, { plan, options }) => takeSettle(montage, plan, options),
};
