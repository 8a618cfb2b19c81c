import { outlineScale, toMontageTime, toSongTime, type Line, type Mark, type Peaks, type SongPiece } from '@bluster/core';
import { lineX } from './line-x.ts';

/** A line, the sound of its song, and the marks on it. */
export interface SoundOfLine {
  readonly line: Line;
  readonly pieces: readonly SongPiece[];
  readonly peaks: Peaks | null;
  readonly marks: readonly Mark[];
  readonly chosen: readonly string[];
  readonly width: number;
  readonly height: number;
  /** three bands under one another, or one outline */
  readonly bands: boolean;
}

/** Room below a line for the carets of its accents. */
export const CARETS_HEIGHT = 13;
const BANDS = ['low', 'mid', 'high'] as const;

type Scale = ReturnType<typeof outlineScale>;
const scales = new WeakMap<Float32Array, Scale>();

/** How tall an outline is drawn; found once for each. */
function scaleOf(outline: Float32Array, perSecond: number): Scale {
  let found = scales.get(outline);
  if (!found) scales.set(outline, (found = outlineScale(outline, perSecond)));
  return found;
}

/** Draws the outline of a line's sound. */
export function drawWave(
  c: CanvasRenderingContext2D,
  { line, pieces, peaks, width, height, bands }: SoundOfLine,
  colour: (name: string) => string,
): void {
  if (!peaks) return;
  const pixels = Math.ceil(lineX(line, line.to, width));
  const rows = bands
    ? BANDS.map((band) => ({ data: peaks[band], colour: colour(`wave-${band}`) }))
    : [{ data: peaks.all, colour: colour('wave') }];
  rows.forEach(({ data, colour: fill }, row) => {
    const scale = scaleOf(data, peaks.perSecond);
    const middle = (height * (row + 0.5)) / rows.length;
    const tall = (height / rows.length) * 0.46;
    c.fillStyle = fill;
    c.globalAlpha = bands ? 0.72 : 1;
    for (let x = 0; x < pixels; x += 2) {
      const from = toSongTime(pieces, line.from + (x / width) * line.span);
      const to = from + (2 / width) * line.span;
      let top = 0;
      for (let i = Math.floor(from * peaks.perSecond); i <= Math.min(data.length - 1, Math.floor(to * peaks.perSecond)); i++)
        top = Math.max(top, data[i] ?? 0);
      const h = Math.max(0.5, scale(top, from * peaks.perSecond) * tall);
      c.fillRect(x, middle - h, 1.3, 2 * h);
    }
  });
  c.globalAlpha = 1;
}

/** Draws the marks of a line; accents below its height. */
export function drawMarks(
  c: CanvasRenderingContext2D,
  { line, pieces, marks, chosen, width, height }: SoundOfLine,
  colour: (name: string) => string,
): void {
  for (const mark of marks) {
    const time = toMontageTime(pieces, mark.time);
    if (time === null || time < line.from - 1e-6 || time > line.to + 1e-6) continue;
    // What lies on the end of a line belongs to the next one; only the stroke of its bar is drawn here too.
    if (time > line.to - 1e-3 && mark.kind !== 'bar') continue;
    const x = Math.round(lineX(line, time, width)) + 0.5;
    const picked = chosen.includes(mark.id);
    if (mark.kind === 'drop') {
      c.fillStyle = colour('coral');
      c.beginPath();
      c.moveTo(x - 6.5, 0);
      c.lineTo(x + 6.5, 0);
      c.lineTo(x, 9);
      c.fill();
      continue;
    }
    if (mark.kind === 'accent') {
      // A small caret under the line; the stronger the accent, the darker.
      c.globalAlpha = picked ? 1 : 0.35 + 0.65 * (mark.strength ?? 1);
      c.strokeStyle = picked ? colour('spruce') : mark.band === 'voice' ? colour('gold') : colour('soft');
      c.lineWidth = picked ? 2.2 : 1.3;
      c.beginPath();
      c.moveTo(x - 3.5, height + 9);
      c.lineTo(x, height + 3.5);
      c.lineTo(x + 3.5, height + 9);
      c.stroke();
      c.globalAlpha = 1;
      continue;
    }
    if (mark.kind === 'cue') {
      drawCue(c, mark, x, picked ? colour('spruce') : colour('ink'), colour('paper'));
      continue;
    }
    const tall = mark.kind === 'bar';
    c.strokeStyle = picked ? colour('spruce') : tall ? colour('ink') : colour('beat');
    c.lineWidth = picked ? 2.5 : tall ? 1.6 : 1;
    c.beginPath();
    c.moveTo(x, tall ? 0 : height * 0.16);
    c.lineTo(x, tall ? height : height * 0.84);
    c.stroke();
  }
}

/** A tick of speech with the cue's word. */
function drawCue(c: CanvasRenderingContext2D, mark: Mark, x: number, ink: string, ground: string): void {
  const text = mark.label === undefined || mark.label === '' ? '…' : mark.label.length > 18 ? `${mark.label.slice(0, 17)}…` : mark.label;
  c.font = '10.5px "Figtree Variable", sans-serif';
  const wide = c.measureText(text).width + 8;
  c.fillStyle = ground;
  c.strokeStyle = ink;
  c.lineWidth = 1;
  c.beginPath();
  c.roundRect(x, 1.5, wide, 14, 4);
  c.fill();
  c.stroke();
  c.beginPath();
  c.moveTo(x, 8);
  c.lineTo(x, 26);
  c.stroke();
  c.fillStyle = ink;
  c.fillText(text, x + 4, 12);
}
