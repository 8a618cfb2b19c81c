import { planFill, planSettle, type FillKnowledge, type FillOptions, type Montage, type SettleOptions } from '@bluster/core';

/** A plan that is wanted. */
export type PlanWish =
  | { readonly plan: 'fill'; readonly montage: Montage; readonly options: FillOptions; readonly knowledge: FillKnowledge | undefined }
  | { readonly plan: 'settle'; readonly montage: Montage; readonly options: SettleOptions };

onmessage = (event: MessageEvent<{ id: number; wish: PlanWish }>) => {
  const { id, wish } = event.data;
  try {
    const plan = wish.plan === 'fill' ? planFill(wish.montage, wish.options, wish.knowledge) : planSettle(wish.montage, wish.options);
    postMessage({ id, plan });
  } catch (problem) {
    postMessage({ id, problem: (problem as Error).message });
  }
};
