import { z } from 'zod';
import { onMark, ruleKind } from './rule-kind.ts';

export const drops = ruleKind(z.object({ kind: z.literal('drops') }), {
  offered: [{ kind: 'drops' }],
  counts: false,
  places: (_, { marks }) => marks.filter((m) => m.kind === 'drop').map(onMark),
  says: () => 'drops',
  lacks: () => 'There are no drops to hang pegs on. Mark them in Song with U, or choose another rule.',
});
