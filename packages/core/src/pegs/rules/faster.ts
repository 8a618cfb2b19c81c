import { z } from 'zod';
import { afterBeats, NO_BARS } from './counting.ts';
import { onMark, ruleKind, type PegPlace } from './rule-kind.ts';

/** Bars in the first third of a stretch, beats in the second, half beats in the last. */
export const faster = ruleKind(z.object({ kind: z.literal('faster') }), {
  offered: [{ kind: 'faster' }],
  counts: true,
  places: (_, { beats, from, to }) => {
    const inside = beats.filter((m) => m.time >= from - 0.02 && m.time < to);
    const part = (to - from) / 3;
    return inside.flatMap((m, i): PegPlace[] => {
      const third = Math.floor((m.time - from + 1e-6) / part);
      if (third <= 0) return m.kind === 'bar' ? [onMark(m)] : [];
      const half = third >= 2 ? afterBeats(inside, i, 0.5) : null;
      return [onMark(m), ...(half ? [half] : [])];
    });
  },
  says: () => 'faster and faster',
  lacks: () => NO_BARS,
});
