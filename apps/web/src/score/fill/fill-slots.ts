import { toast } from 'sonner';
import type { FillOptions } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { montageNow, useEditor } from '../../document/editor.ts';
import { sayProblem } from '../../interface/say-problem.ts';
import { fillPlan } from '../planning/planning.ts';
import { inNumbers } from './fill-settings.ts';

/** Hangs shots in many slots at once, worked out beside, and says in numbers what that did; what goes wrong is said as well. */
export async function fillSlots(options: FillOptions, assets: ReadonlyMap<string, Asset>): Promise<void> {
  try {
    const plan = await fillPlan(montageNow(), options, assets);
    if (useEditor.getState().run({ do: 'takeFill', plan }))
      toast(inNumbers(plan.counts, plan.leftovers.length).join(' · '), { id: 'fill' });
  } catch (problem) {
    sayProblem(problem);
  }
}
