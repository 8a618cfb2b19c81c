import type { CutRule } from '../time/frames.ts';
import { command } from './command.ts';
import type { Shape } from './montage.ts';
import { reshaped } from './reshaped.ts';

/** Edits of what holds for the montage as a whole. */
export const montageCommands = {
  setShape: command<{ shape: Shape }>('Change size or rate', (montage, { shape }) => reshaped(montage, shape)),

  setCutRule: command<{ rule: CutRule; lead: number }>('Change the cut rule', (montage, { rule, lead }) => ({
    ...montage,
    cut: { rule, lead },
  })),
};
