import { z } from 'zod';
import { BANDS } from '../../music/accents.ts';
import { onMark, ruleKind } from './rule-kind.ts';

const NAMES = { low: 'low accents', mid: 'mid accents', high: 'high accents', voice: 'voice accents' } as const;

/** Accents of one band from a strength on. */
export const accents = ruleKind(z.object({ kind: z.literal('accents'), band: z.enum(BANDS), least: z.number().min(0).max(1) }), {
  offered: [],
  counts: false,
  places: ({ band, least }, { marks }) =>
    marks.filter((m) => m.kind === 'accent' && (m.band ?? 'mid') === band && (m.strength ?? 1) >= least).map(onMark),
  says: ({ band }) => NAMES[band],
  lacks: ({ band }) => `There are no ${NAMES[band]} of that strength here. Lower the strength, or choose another band.`,
});
