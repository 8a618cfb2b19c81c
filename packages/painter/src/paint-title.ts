import { USUAL_FACE } from '@bluster/core/finish/faces/faces';
import type { TitleItem, TitlePiece } from '@bluster/core/finish/titles';
import type { PaintContext } from './paint-context.ts';

/** The part of a canvas that writing needs. */
type WriteContext = Omit<PaintContext<never>, 'drawImage'>;

/** Under which names whoever paints has to have a typeface loaded, the second for letters that the first lacks. */
export const faceFamilies = (face: string): readonly [string, string] => [`Bluster ${face}`, `Bluster ${face} extended`];

/** What stands in for letters that a typeface lacks, and for one that could not be loaded. */
const INSTEAD = faceFamilies(USUAL_FACE);

/** Where a line's foot is below its middle, in sizes. */
const FOOT = 0.35;
/** A soft shadow, in sizes, so that letters can be read on any picture. */
const SHADOW = 0.18;
/** How far a plate reaches beyond the letters, in sizes: at the sides, and above and below. */
const PLATE = { across: 0.4, down: 0.2 };

/** What casts a shadow stands so far to the left, canvas pixels. */
const BESIDE = 20_000;

type Layer = 'shadow' | 'outline' | 'letters';

/** Rough brightness of a colour, 0 to 1. @param colour #rrggbb */
const brightness = (colour: string): number => {
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16) / 255) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};

/** Whether all pieces of a line are where they belong. */
const atRest = (line: readonly TitlePiece[]): boolean =>
  line.every((piece) => piece.opacity === 1 && piece.below === 0 && piece.scale === 1);

/** A line that has come, as one piece: letters of written hands reach into each other. */
const whole = (line: readonly TitlePiece[]): TitlePiece => ({
  text: line.map((piece) => piece.text).join(''),
  opacity: 1,
  below: 0,
  scale: 1,
});

class TitlePainter {
  /** height of the letters, canvas pixels */
  private readonly size: number;
  private readonly widths: readonly number[];

  constructor(
    private readonly context: WriteContext,
    private readonly title: TitleItem,
    private readonly scale: number,
  ) {
    const texts = title.lines.map((line) => line.map((piece) => piece.text).join(''));
    this.setFont(title.size * scale);
    // With the plate, which must not leave the picture either.
    const beside = title.plate ? 2 * PLATE.across * title.size : 0;
    const wide = Math.max(1, ...texts.map((text) => context.measureText(text).width)) / scale + beside;
    this.size = (wide > title.widest ? (title.size * title.widest) / wide : title.size) * scale;
    this.setFont(this.size);
    this.widths = texts.map((text) => context.measureText(text).width);
  }

  private setFont(size: number): void {
    const { context, title } = this;
    context.font = `${title.weight} ${size.toFixed(2)}px ${[...faceFamilies(title.face), ...INSTEAD].map((f) => `"${f}"`).join(', ')}, sans-serif`;
    context.letterSpacing = `${(title.spacing * size).toFixed(2)}px`;
  }

  private get top(): number {
    const { title, scale, size } = this;
    return title.y * scale - ((title.lines.length - 1) / 2) * title.step * size;
  }

  plate(): void {
    const { context, title, scale, size } = this;
    if (!title.plate || title.plate.opacity === 0) return;
    const width = Math.max(...this.widths) + 2 * PLATE.across * size;
    const height = ((title.lines.length - 1) * title.step + 1 + 2 * PLATE.down) * size;
    context.globalAlpha = title.plate.opacity;
    context.fillStyle = title.plate.colour;
    context.fillRect(title.x * scale - width / 2, title.y * scale - height / 2, width, height);
  }

  /** One layer of a piece: its shadow, its outline, or itself. */
  private piece(layer: Layer, piece: TitlePiece, x: number, y: number): void {
    const { context, title, size } = this;
    if (piece.opacity === 0 || piece.text.trim() === '') return;
    const wide = context.measureText(piece.text).width;
    context.save();
    // About the middle of its foot. What casts a shadow stands beside the picture, so that the shadow is all that is seen.
    context.translate(x + wide / 2 - (layer === 'shadow' ? BESIDE : 0), y + piece.below * size);
    context.scale(piece.scale, piece.scale);
    context.globalAlpha = piece.opacity;
    context.textAlign = 'left';
    context.textBaseline = 'alphabetic';
    if (layer === 'shadow') {
      context.shadowColor = brightness(title.colour) < 0.3 ? 'rgba(255,255,255,0.45)' : 'rgba(0,0,0,0.5)';
      context.shadowBlur = SHADOW * size;
      context.shadowOffsetX = BESIDE;
    }
    if (title.outline && layer !== 'letters') {
      context.strokeStyle = title.outline.colour;
      context.lineWidth = 2 * title.outline.width * size;
      context.lineJoin = 'round';
      context.strokeText(piece.text, -wide / 2, 0);
    }
    if (layer === 'letters' || (layer === 'shadow' && !title.outline)) {
      context.fillStyle = title.colour;
      context.fillText(piece.text, -wide / 2, 0);
    }
    context.restore();
  }

  private layer(layer: Layer): void {
    const { context, title, scale, size } = this;
    title.lines.forEach((line, n) => {
      const left = title.x * scale - this.widths[n]! / 2;
      const foot = this.top + (n * title.step + FOOT) * size;
      let before = '';
      for (const piece of atRest(line) ? [whole(line)] : line) {
        // What stands before it says where it stands, so that pairs of letters keep their distance.
        const end = context.measureText(before + piece.text).width;
        this.piece(layer, piece, left + (before === '' ? 0 : end - context.measureText(piece.text).width), foot);
        before += piece.text;
      }
    });
  }

  /** All shadows lie below all outlines, and those below all letters: none falls on the letter before. */
  letters(): void {
    if (this.title.shadow) this.layer('shadow');
    if (this.title.outline) this.layer('outline');
    this.layer('letters');
  }
}

/** Writes a title. @param scale canvas pixels a montage pixel */
export function paintTitle(context: WriteContext, title: TitleItem, scale: number): void {
  context.save();
  const painter = new TitlePainter(context, title, scale);
  painter.plate();
  painter.letters();
  context.restore();
}
