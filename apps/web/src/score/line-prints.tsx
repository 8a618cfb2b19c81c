import { memo, useEffect, useRef } from 'react';
import type { Line, PlacedPeg, PlacedShot, Slot } from '@bluster/core';
import type { Asset } from '../api/wire.ts';
import { drawCovering } from '../footage/draw-covering.ts';
import { onTiles, tile, tileKey } from '../footage/tiles.ts';
import { useTheme } from '../interface/theme.ts';
import { themeColours } from '../lines/colours.ts';
import { lineX } from '../lines/line-wave.tsx';
import { drawPeg } from './peg-shape.tsx';
import { PRINT_EDGE, PRINT_HEIGHT, PRINT_TOP, printPictures, printPlace } from './print-layout.ts';

interface LinePrintsProps {
  readonly slots: readonly Slot[];
  readonly pegs: readonly PlacedPeg[];
  readonly line: Line;
  readonly width: number;
  readonly fps: number;
  readonly assets: ReadonlyMap<string, Asset>;
}

/** Room on both sides of the line, for half a peg. */
const MARGIN_PX = 8;
const HEIGHT = PRINT_TOP + PRINT_HEIGHT + 3;

/** A small picture and its place on the line, pixels. */
interface Place {
  readonly key: string;
  readonly x: number;
  readonly width: number;
}

const isFilled = (slot: Slot): slot is Slot & { readonly placed: PlacedShot } => slot.placed !== null;

/** Draws the white papers, and finds where which pictures belong on them. */
function drawPapers(c: CanvasRenderingContext2D, props: LinePrintsProps, colour: (name: string) => string): Place[] {
  const { slots, line, width, fps, assets } = props;
  const [paper, blank] = [colour('print'), colour('cloth-2')];
  return slots.filter(isFilled).flatMap((slot) => {
    const at = printPlace(slot, line, width, fps);
    if (at.wide < 4) return [];
    const wide = Math.max(1, at.wide - 4);
    c.fillStyle = 'rgba(27,39,51,.16)';
    c.beginPath();
    c.roundRect(at.left + 1.5, PRINT_TOP + 1, wide + 1, PRINT_HEIGHT + 0.5, 3);
    c.fill();
    c.fillStyle = paper;
    c.beginPath();
    c.roundRect(at.left + 2, PRINT_TOP, wide, PRINT_HEIGHT, 3);
    c.fill();
    const pictures = printPictures(slot, line, width, fps, at);
    if (pictures.width < 1) return [];
    const left = at.left + 2 + PRINT_EDGE;
    c.fillStyle = blank;
    c.fillRect(left, PRINT_TOP + PRINT_EDGE, pictures.width, PRINT_HEIGHT - 2 * PRINT_EDGE);
    const asset = assets.get(slot.placed.item.assetId);
    const each = pictures.width / pictures.times.length;
    return pictures.times.flatMap((time, i) => {
      const key = tileKey(asset, time);
      return key === null ? [] : [{ key, x: left + i * each, width: each }];
    });
  });
}

const same = (a: LinePrintsProps, b: LinePrintsProps): boolean =>
  a.line === b.line &&
  a.width === b.width &&
  a.fps === b.fps &&
  a.assets === b.assets &&
  a.slots.length === b.slots.length &&
  a.slots.every((s, i) => s.start === b.slots[i]!.start && s.end === b.slots[i]!.end && s.placed === b.slots[i]!.placed) &&
  a.pegs.length === b.pegs.length &&
  a.pegs.every((p, i) => p === b.pegs[i]);

/**
 * The pegs and prints of a line as they look, on one canvas; what can be done with them lies over it. Lines by the dozen
 * scroll past, and their pictures come in together: so each is painted once and not once for every print.
 */
export const LinePrints = memo(function LinePrints(props: LinePrintsProps): React.JSX.Element {
  const { width } = props;
  const ref = useRef<HTMLCanvasElement>(null);
  const { theme } = useTheme();
  useEffect(() => {
    const canvas = ref.current;
    const c = canvas?.getContext('2d');
    if (!canvas || !c || width <= 0) return;
    const ratio = devicePixelRatio;
    canvas.width = Math.round((width + 2 * MARGIN_PX) * ratio);
    canvas.height = Math.round(HEIGHT * ratio);
    c.setTransform(ratio, 0, 0, ratio, 0, 0);
    c.translate(MARGIN_PX, 0);
    let left = drawPapers(c, props, themeColours());
    for (const peg of props.pegs) drawPeg(c, lineX(props.line, peg.time, width), 0, !peg.mark);
    const draw = (): void => {
      left = left.filter((place) => {
        const picture = tile(place.key);
        if (picture) drawCovering(c, picture, place.x, PRINT_TOP + PRINT_EDGE, place.width, PRINT_HEIGHT - 2 * PRINT_EDGE);
        return !picture;
      });
    };
    draw();
    return left.length > 0 ? onTiles(draw) : undefined;
  }, [props, theme, width]);
  return (
    <canvas
      ref={ref}
      className="pointer-events-none absolute top-0"
      style={{ left: -MARGIN_PX, width: width + 2 * MARGIN_PX, height: HEIGHT }}
      aria-hidden
    />
  );
}, same);
