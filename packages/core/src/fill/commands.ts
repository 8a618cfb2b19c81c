import { command } from '../document/command.ts';
import type { FillKnowledge, FillOptions } from './fill-options.ts';
import { fill, takePlan, type FillPlan } from './fill.ts';
import { withoutGaps, type GapRemedy } from './gaps.ts';

export const fillCommands = {
  fill: command<{ options: FillOptions; knowledge?: FillKnowledge }>('Fill slots', (montage, { options, knowledge }) =>
    fill(montage, options, knowledge),
  ),
  takeFill: command<{ plan: FillPlan }>('Fill slots', (montage, { plan }) => takePlan(montage, plan)),
  /** of slots, by first peg: what is done about what is missing there */
  remedyGaps: command<{ startPegs: readonly string[]; remedy: GapRemedy }>('Close gaps', (montage, { startPegs, remedy }) =>
    withoutGaps(montage, startPegs, remedy),
  ),
};
