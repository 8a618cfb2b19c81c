import {
  planFill,
  planSettle,
  type FillKnowledge,
  type FillOptions,
  type FillPlan,
  type Montage,
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
  settle: { ask: { readonly montage: Montage; readonly options: SettleOptions }; answer: SettlePlan };
};

answerRequests<PlanningRequests>({
  fill: ({ montage, options, knowledge }) => planFill(montage, options, knowledge),
  settle: ({ montage, options }) => planSettle(montage, options),
});
