import { z } from 'zod';
import { onMark, ruleKind } from './rule-kind.ts';

export const cues = ruleKind(z.object({ kind: z.literal('cues') }), {
  offered: [{ kind: 'cues' }],
  counts: false,
  places: (_, { marks }) => marks.filter((m) => m.kind === 'cue').map(onMark),
  says: () => 'cues',
  lacks: () => 'There are no cues to hang pegs on. Mark them in Song with Q, or read them from a file.',
});
