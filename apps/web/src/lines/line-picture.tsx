import { memo } from 'react';
import type { Line, Mark, Peaks, PlacedPeg, PlacedShot, Slot, SongPiece } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { drawFramed } from '../tiles/draw-framed.ts';
import { filmFrame, type FilmFrame } from '../tiles/film-frame.ts';
import { onTiles, tile, tileKey } from '../tiles/tiles.ts';
import { themeColours } from './colours.ts';
import { LineCanvas } from './line-canvas.tsx';
import { lineX } from './line-x.ts';
import { drawMarks, drawWave } from './wave-drawing.ts';
import { drawPeg } from './peg-shape.tsx';
import { NARROWEST_PRINT, PRINT_EDGE, PRINT_HEIGHT, PRINT_TOP, printPictures, printPlace } from './print-layout.ts';

interface LinePictureProps {
  readonly line: Line;
  readonly pieces: readonly SongPiece[];
  readonly peaks: Peaks | null;
  /** those on this line */
  readonly marks: readonly Mark[];
  readonly slots: readonly Slot[];
  readonly pegs: readonly PlacedPeg[];
  readonly width: number;
  readonly fps: number;
  /** of the film, pixels */
  readonly screen: { readonly width: number; readonly height: number };
  readonly assets: ReadonlyMap<string, Asset>;
}

export const WAVE_HEIGHT = 40;
const PRINTS_TOP = WAVE_HEIGHT + PRINT_TOP;
const HEIGHT = PRINTS_TOP + PRINT_HEIGHT + 3;
const NONE: readonly string[] = [];

/** A small picture and its place on the line, pixels. */
interface Place {
  readonly key: string;
  readonly framed: FilmFrame;
  readonly x: number;
  readonly width: number;
}

const isFilled = (slot: Slot): slot is Slot & { readonly placed: PlacedShot } => slot.placed !== null;

/** Draws the white papers, and finds where which pictures belong on them. */
function drawPapers(c: CanvasRenderingContext2D, props: LinePictureProps, colour: (name: string) => string): Place[] {
  const { slots, line, width, fps, screen, assets } = props;
  const [paper, blank] = [colour('print'), colour('cloth-2')];
  return slots.filter(isFilled).flatMap((slot) => {
    const at = printPlace(slot, line, width, fps);
    if (at.wide < NARROWEST_PRINT) return [];
    const wide = Math.max(1, at.wide - 4);
    c.fillStyle = 'rgba(27,39,51,.16)';
    c.beginPath();
    c.roundRect(at.left + 1.5, PRINTS_TOP + 1, wide + 1, PRINT_HEIGHT + 0.5, 3);
    c.fill();
    c.fillStyle = paper;
    c.beginPath();
    c.roundRect(at.left + 2, PRINTS_TOP, wide, PRINT_HEIGHT, 3);
    c.fill();
    const { item, shot } = slot.placed;
    const framed = filmFrame(item, screen, shot.framing);
    const pictures = printPictures(slot, line, width, fps, at, screen.width / screen.height);
    if (pictures.width < 1) return [];
    const left = at.left + 2 + PRINT_EDGE;
    c.fillStyle = blank;
    c.fillRect(left, PRINTS_TOP + PRINT_EDGE, pictures.width, PRINT_HEIGHT - 2 * PRINT_EDGE);
    const asset = assets.get(item.assetId);
    const each = pictures.width / pictures.times.length;
    return pictures.times.flatMap((time, i) => {
      const key = tileKey(asset, time);
      return key === null ? [] : [{ key, framed, x: left + i * each, width: each }];
    });
  });
}

function drawLine(c: CanvasRenderingContext2D, props: LinePictureProps): (() => void) | undefined {
  const colour = themeColours();
  const sound = { ...props, chosen: NONE, height: WAVE_HEIGHT, bands: false };
  drawWave(c, sound, colour);
  drawMarks(c, sound, colour);
  let left = drawPapers(c, props, colour);
  for (const peg of props.pegs) drawPeg(c, lineX(props.line, peg.time, props.width), WAVE_HEIGHT, !peg.mark);
  const drawTiles = (): void => {
    left = left.filter((place) => {
      const picture = tile(place.key);
      if (picture)
        drawFramed(
          c,
          picture,
          place.framed,
          { x: place.x, y: PRINTS_TOP + PRINT_EDGE, width: place.width, height: PRINT_HEIGHT - 2 * PRINT_EDGE },
          'cover',
        );
      return !picture;
    });
  };
  drawTiles();
  return left.length > 0 ? onTiles(drawTiles) : undefined;
}

const alike = <T,>(a: readonly T[], b: readonly T[]): boolean => a.length === b.length && a.every((x, i) => x === b[i]);

const same = (a: LinePictureProps, b: LinePictureProps): boolean =>
  a.line === b.line &&
  a.pieces === b.pieces &&
  a.peaks === b.peaks &&
  a.width === b.width &&
  a.fps === b.fps &&
  a.screen === b.screen &&
  a.assets === b.assets &&
  alike(a.marks, b.marks) &&
  a.slots.length === b.slots.length &&
  a.slots.every((s, i) => s.start === b.slots[i]!.start && s.end === b.slots[i]!.end && s.placed === b.slots[i]!.placed) &&
  alike(a.pegs, b.pegs);

/**
 * The sound, pegs and prints of a line as they look, on one canvas; what can be done with them lies over it. Lines by the
 * dozen scroll past, and their pictures come in together: so each is painted once and not once for every print.
 */
export const LinePicture = memo(function LinePicture(props: LinePictureProps): React.JSX.Element {
  return <LineCanvas width={props.width} height={HEIGHT} draw={(c) => drawLine(c, props)} />;
}, same);
