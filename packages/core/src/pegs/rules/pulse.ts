import { z } from 'zod';
import { onMark, ruleKind } from './rule-kind.ts';

const fields = z.object({ kind: z.literal('pulse'), unit: z.enum(['beat', 'bar']), every: z.int().min(1).max(64) });
const every = (unit: 'beat' | 'bar', count: number): z.infer<typeof fields> => ({ kind: 'pulse', unit, every: count });

/** Every so many beats or bars. */
export const pulse = ruleKind(fields, {
  offered: [
    every('beat', 1),
    every('beat', 2),
    every('bar', 1),
    every('bar', 2),
    every('beat', 4),
    every('beat', 8),
    every('bar', 4),
    every('bar', 8),
  ],
  counts: true,
  // Counting starts at the first bar, or at the first beat where there is none.
  places: ({ unit, every: step }, { beats }) => {
    const units = unit === 'bar' ? beats.filter((m) => m.kind === 'bar') : beats;
    const start = Math.max(
      0,
      units.findIndex((m) => m.kind === 'bar'),
    );
    return units.filter((_, i) => (((i - start) % step) + step) % step === 0).map(onMark);
  },
  says: ({ unit, every: count }) => (count === 1 ? (unit === 'beat' ? 'every beat' : 'bars') : `${count} ${unit}s`),
  lacks: ({ unit }) => `There are no ${unit}s to hang pegs on. Set where bar 1 is in Song, or choose another rule.`,
});
