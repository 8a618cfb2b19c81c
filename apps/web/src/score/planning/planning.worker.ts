import {
  firstCut,
  planFill,
  planSettle,
  type FillKnowledge,
  type FillOptions,
  type FillPlan,
  type FirstCut,
  type FirstCutWish,
  type Montage,
  type SeenMaterial,
  type SettleOptions,
  type SettlePlan,
} from '@bluster/core';
import { answerRequests } from '../../workers/worker-requests.ts';

/** Plans that take too long to make on the page's own thread. */
export type PlanningRequests = {
  fill: {
    ask: { readonly montage: Montage; readonly options: FillOptions; readonly knowledge: FillKnowledge | undefined };
    answer: FillPlan;
  };
  firstCut: {
    ask: {
      readonly montage: Montage;
      readonly wish: FirstCutWish;
      readonly seen: SeenMaterial;
    };
    answer: FirstCut;
  };
  settle: { ask: { readonly montage: Montage; readonly options: SettleOptions }; answer: SettlePlan };
};

answerRequests<PlanningRequests>({
  fill: ({ montage, options, knowledge }) => planFill(montage, options, knowledge),
  firstCut: ({ montage, wish, seen }) => firstCut(montage, wish, seen),
  settle: ({ montage, options }) => planSettle(montage, options),
});
