import { withoutGaps } from './gaps.ts';
import { takePlan } from './fill.ts';
import type { Handlers } from './command.ts';
import { layRun, planSettle, takeSettle } from './settle.ts';
import { loosened } from './variety.ts';

/** Commands that change many cuts or shots at once by a plan of their own. */
export const scoreCommands: Handlers<'takeFill' | 'remedyGaps' | 'loosenCuts' | 'layRun' | 'settle'> = {
  takeFill: (montage, { plan }) => takePlan(montage, plan),
  remedyGaps: (montage, { startPegs, remedy }) => withoutGaps(montage, startPegs, remedy),
  loosenCuts: (montage, { seed, share }) => loosened(montage, seed, share),
  layRun: (montage, { run, at }) => layRun(montage, run, at).montage,
  settle: (montage, { options }) => takeSettle(montage, planSettle(montage, options), options),
};
