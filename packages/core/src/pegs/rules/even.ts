import { z } from 'zod';
import { ruleKind } from './rule-kind.ts';

/** Every so many frames, for music that gives nothing. */
export const even = ruleKind(z.object({ kind: z.literal('even'), frames: z.int().min(2).max(10_000) }), {
  offered: [],
  counts: false,
  places: ({ frames }, { everyFrames }) => everyFrames(frames).map((time) => ({ markId: null, time })),
  says: ({ frames }) => `every ${frames} frames`,
  lacks: () => 'The song is shorter than one such step. Choose fewer frames.',
});
