import { z } from 'zod';
import { afterBeats, barGroups, NO_BARS } from './counting.ts';
import { ruleKind, type PegPlace } from './rule-kind.ts';

/** Steps of equal length over one or two bars; a peg where a step is true. */
export const pattern = ruleKind(
  z.object({ kind: z.literal('pattern'), bars: z.union([z.literal(1), z.literal(2)]), steps: z.array(z.boolean()).min(1).max(64) }),
  {
    offered: [],
    counts: true,
    places: ({ bars, steps }, { beats }) => {
      const places: PegPlace[] = [];
      for (const group of barGroups(beats, bars))
        for (let k = 0; k < steps.length; k++) {
          const place = steps[k] ? afterBeats(beats, group.first, (k * group.beats) / steps.length) : null;
          if (place) places.push(place);
        }
      return places;
    },
    says: ({ steps }) => steps.map((on) => (on ? '●' : '○')).join(' '),
    lacks: () => NO_BARS,
  },
);
