import { effectKind } from './effect-kind.ts';

/** How much of the picture is covered at full strength. */
const COVER = 0.9;
/** Flashes a second that a gentle one has at the most: WCAG 2.3.1 allows three. */
const GENTLE_HZ = 2.9;
/** From one flash to the next, beats. */
const STEP_BEATS = 0.25;

export const strobe = effectKind({
  title: 'strobe',
  says: 'White flashes four times a beat',
  key: 's',
  defaults: { strength: 0.6, beats: 1 },
  curve: 'whole',
  at: (left, { seconds, beat, gentle }) => {
    const step = gentle ? Math.max(STEP_BEATS * beat, 1 / GENTLE_HZ) : STEP_BEATS * beat;
    return (seconds / step) % 1 < 0.5 ? { veil: { colour: '#ffffff', opacity: COVER * left } } : {};
  },
  flashes: (beat) => 1 / (STEP_BEATS * beat),
});
