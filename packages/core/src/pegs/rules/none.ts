import { z } from 'zod';
import { ruleKind } from './rule-kind.ts';

/** No pegs but those that were hung by hand. */
export const none = ruleKind(z.object({ kind: z.literal('none') }), {
  offered: [],
  counts: false,
  places: () => [],
  says: () => 'no pegs',
  lacks: () => null,
});
