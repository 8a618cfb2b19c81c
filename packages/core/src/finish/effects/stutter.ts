import { effectKind } from './effect-kind.ts';

/** How long the piece is that is seen again and again, beats. */
const PIECE_BEATS = 0.5;

export const stutter = effectKind({
  title: 'stutter',
  says: 'The same half beat of the picture is seen again and again',
  key: 'u',
  defaults: { strength: 1, beats: 2 },
  curve: 'whole',
  at: null,
  shown: ({ seconds, beat }) => seconds % (PIECE_BEATS * beat),
});
