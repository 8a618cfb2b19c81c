import { onceFor } from '../lists/once-for.ts';
import type { Letterbox, Montage } from '../document/montage.ts';
import { barsAround, type Rect } from '../geometry/framing.ts';
import { placedSpan, spanPart, type PlacedSpan } from './placed-span.ts';

interface PlacedLetterbox {
  readonly letterbox: Letterbox;
  readonly span: PlacedSpan;
}

/** The letterboxes that are awake, with their frames; found once for each document. */
export const placedLetterboxes = onceFor((montage: Montage): readonly PlacedLetterbox[] =>
  montage.letterboxes.flatMap((letterbox) => {
    const span = placedSpan(montage, letterbox.span);
    return span ? [{ letterbox, span }] : [];
  }),
);

const NO_BARS: readonly Rect[] = [];

/** The bars that the letterboxes of a frame draw; of several at once the tallest and the widest. */
export function barsAt(montage: Montage, frame: number): readonly Rect[] {
  let [tall, wide] = [0, 0];
  for (const { letterbox, span } of placedLetterboxes(montage)) {
    const part = spanPart(span, frame);
    if (part === 0) continue;
    const bars = barsAround(montage.shape, letterbox.aspect);
    tall = Math.max(tall, part * bars.tall);
    wide = Math.max(wide, part * bars.wide);
  }
  if (tall < 1 && wide < 1) return NO_BARS;
  const { width, height } = montage.shape;
  const [high, broad] = [2 * Math.round(tall / 2), 2 * Math.round(wide / 2)];
  return [
    ...(high > 0
      ? [
          { x: 0, y: 0, width, height: high },
          { x: 0, y: height - high, width, height: high },
        ]
      : []),
    ...(broad > 0
      ? [
          { x: 0, y: 0, width: broad, height },
          { x: width - broad, y: 0, width: broad, height },
        ]
      : []),
  ];
}

/** How tall bars become while frames from one on to before another are seen, pixels. */
export function tallestBar(montage: Montage, from: number, to: number): number {
  return placedLetterboxes(montage).reduce(
    (most, { letterbox, span }) =>
      span.from < to && span.to > from ? Math.max(most, barsAround(montage.shape, letterbox.aspect).tall) : most,
    0,
  );
}
