import { LINE_STEP, type TitleItem } from '@bluster/core/finish/titles';
import type { PaintContext } from './paint-context.ts';

/** The part of a canvas that writing needs. */
type WriteContext = Omit<PaintContext<never>, 'drawImage'>;

/** The typeface of titles; whoever paints has to have it loaded under these names, the second for letters the first lacks. */
export const TITLE_FACES = ['Bluster Title', 'Bluster Title Extended'] as const;

/** Where a line's foot is below its middle, in sizes. */
const FOOT = 0.35;
/** A soft shadow, in sizes, so that letters can be read on any picture. */
const SHADOW = 0.18;

/** Writes a title. @param scale canvas pixels a montage pixel */
export function paintTitle(context: WriteContext, title: TitleItem, scale: number): void {
  const fontOf = (size: number): string =>
    `${title.weight} ${(size * scale).toFixed(2)}px ${TITLE_FACES.map((f) => `"${f}"`).join(', ')}, sans-serif`;
  context.font = fontOf(title.size);
  const wide = Math.max(...title.lines.map((line) => context.measureText(line).width)) / scale;
  const size = wide > title.widest ? (title.size * title.widest) / wide : title.size;
  context.font = fontOf(size);
  context.textAlign = 'center';
  context.textBaseline = 'alphabetic';
  context.fillStyle = title.colour;
  context.globalAlpha = title.opacity;
  context.shadowColor = title.colour === '#1b2733' ? 'rgba(255,255,255,0.45)' : 'rgba(0,0,0,0.5)';
  context.shadowBlur = SHADOW * size * scale;
  const middle = (title.lines.length - 1) / 2;
  title.lines.forEach((line, i) => context.fillText(line, title.x * scale, (title.y + ((i - middle) * LINE_STEP + FOOT) * size) * scale));
  context.shadowColor = 'transparent';
  context.shadowBlur = 0;
  context.globalAlpha = 1;
}
