import { frameTime, framesPerSecond, marksInUse, scoreOf, toMontageTime, type Mark, type Montage, type SongPiece } from '@bluster/core';
import { themeColours } from '../lines/colours.ts';
import type { OnsetCurves } from '../marking/listening.worker.ts';
import { onsetNear } from '../marking/repairs.ts';
import { columnsOf } from './sound-columns.ts';
import { soundStrip, STRIP_COLUMNS } from './sound-strip.ts';

/** What the loupe is looking at. Times are montage seconds. */
export interface View {
  readonly montage: Montage;
  readonly pieces: readonly SongPiece[];
  readonly centre: number;
  readonly span: number;
  readonly width: number;
  readonly height: number;
  readonly chosen: readonly string[];
}

export const xOf = (view: View, time: number): number => ((time - view.centre) / view.span + 0.5) * view.width;
export const timeOf = (view: View, x: number): number => (x / view.width - 0.5) * view.span + view.centre;

/** How far the nearest onset is from a mark, in ms and frames. */
function onsetText({ montage }: View, mark: Mark): string {
  const onset = onsetNear(montage, mark.time);
  if (!onset) return '';
  const off = onset.time - mark.time;
  const ms = Math.round(Math.abs(off) * 1000);
  if (ms === 0) return 'on its onset';
  return `onset ${ms} ms ${off > 0 ? 'later' : 'earlier'} (${(Math.abs(off) * framesPerSecond(montage.shape.rate)).toFixed(1)} f)`;
}

/** How far the cut at a mark is off it, in frames; nothing where no cut is. */
function cutText({ montage }: View, mark: Mark): string {
  const peg = scoreOf(montage).pegs.find((p) => p.mark?.id === mark.id);
  if (!peg) return '';
  const off = (frameTime(peg.frame, montage.shape.rate) - peg.time) * framesPerSecond(montage.shape.rate);
  return `cut ${Math.abs(off) < 0.05 ? 'on it' : `${Math.abs(off).toFixed(1)} frame ${off > 0 ? 'late' : 'early'}`}`;
}

/** What is written at a mark: as much as there is room for before the next one. */
function label(c: CanvasRenderingContext2D, view: View, mark: Mark, bars: ReadonlyMap<string, number>, room: number): string {
  const kind = mark.kind === 'bar' ? `bar ${bars.get(mark.id) ?? ''}` : mark.kind === 'cue' ? `“${mark.label ?? ''}”` : mark.kind;
  const name = mark.locked ? `${kind} · locked` : kind;
  const [onset, cut] = [onsetText(view, mark), cutText(view, mark)];
  const forms = [[name, onset, cut], [name, onset], [name, cut], [name]].map((parts) => parts.filter(Boolean).join(' · '));
  return forms.find((text) => c.measureText(text).width <= room) ?? '';
}

/** The song, of strips that were drawn when they were first looked at: while it plays, they are laid side by side and nothing is drawn. */
function drawSound(c: CanvasRenderingContext2D, view: View, buffer: AudioBuffer, colour: string): void {
  const { width, height, pieces, span } = view;
  const ratio = devicePixelRatio;
  // One column is one pixel of the screen, to the fraction of a sample: else the sound runs away from the marks beside it.
  const columns = columnsOf(buffer, Math.max(1, (span / (width * ratio)) * buffer.sampleRate));
  const column = columns.perColumn / buffer.sampleRate;
  let before = 0;
  for (const { from, to } of pieces) {
    const [first, last] = [Math.max(from, timeOf(view, 0) - before + from), Math.min(to, timeOf(view, width) - before + from)];
    const [start, end] = [Math.floor(first / column), Math.ceil(last / column)];
    const left = Math.round(xOf(view, start * column - from + before) * ratio);
    for (let at = start; at < end;) {
      const { picture, column: begins } = soundStrip(columns, at, height * ratio, colour);
      const next = Math.min(end, begins + STRIP_COLUMNS);
      c.drawImage(picture, at - begins, 0, next - at, picture.height, (left + at - start) / ratio, 0, (next - at) / ratio, height);
      at = next;
    }
    before += to - from;
  }
}

/** Onset strength of the bands, as thin curves rising from the waveform's foot: low nearest to it. */
function drawOnsets(c: CanvasRenderingContext2D, view: View, curves: OnsetCurves, colour: (name: string) => string): void {
  const { pieces, width, height } = view;
  const base = height - 19;
  let before = 0;
  for (const piece of pieces) {
    for (const [band, name] of [
      [curves.high, 'wave-high'],
      [curves.mid, 'wave-mid'],
      [curves.low, 'wave-low'],
    ] as const) {
      c.strokeStyle = colour(name);
      c.lineWidth = 1.4;
      c.beginPath();
      const from = Math.max(piece.from, timeOf(view, 0) - before + piece.from);
      const to = Math.min(piece.to, timeOf(view, width) - before + piece.from);
      for (let n = Math.floor(from * curves.fps); n <= Math.ceil(to * curves.fps); n++) {
        const x = xOf(view, n / curves.fps - piece.from + before);
        const y = base - 34 * (band[n] ?? 0);
        if (n === Math.floor(from * curves.fps)) c.moveTo(x, y);
        else c.lineTo(x, y);
      }
      c.stroke();
    }
    before += piece.to - piece.from;
  }
}

/** Draws the loupe: sound, onsets, the film's frames, marks, pegs, and the playhead in the middle. */
export function drawLoupe(c: CanvasRenderingContext2D, view: View, buffer: AudioBuffer | null, curves: OnsetCurves | null): void {
  const colour = themeColours();
  const { width, height, montage } = view;
  const { rate } = montage.shape;
  c.clearRect(0, 0, width, height);
  if (buffer) drawSound(c, view, buffer, colour('wave'));
  if (curves) drawOnsets(c, view, curves, colour);
  // The ruler's teeth are the film's frames.
  c.strokeStyle = colour('beat');
  c.lineWidth = 1;
  const first = Math.floor(timeOf(view, 0) * framesPerSecond(rate));
  for (let n = Math.max(0, first); frameTime(n, rate) < timeOf(view, width); n++) {
    const x = Math.round(xOf(view, frameTime(n, rate))) + 0.5;
    c.beginPath();
    c.moveTo(x, height - 16);
    c.lineTo(x, height - (n % 5 === 0 ? 4 : 10));
    c.stroke();
  }
  const bars = new Map<string, number>();
  for (const m of montage.marks) if (m.kind === 'bar') bars.set(m.id, bars.size + 1);
  c.font = '11px "Figtree Variable", sans-serif';
  const inView = marksInUse(montage).flatMap((mark) => {
    const time = toMontageTime(view.pieces, mark.time);
    return time === null || Math.abs(time - view.centre) > view.span * 0.55 ? [] : [{ mark, x: Math.round(xOf(view, time)) + 0.5 }];
  });
  const lines = inView.filter(({ mark }) => mark.kind !== 'accent').sort((a, b) => a.x - b.x);
  for (const { mark, x } of inView) {
    if (mark.kind !== 'accent') continue;
    c.strokeStyle = view.chosen.includes(mark.id) ? colour('spruce') : colour('soft');
    c.lineWidth = 1.3;
    c.beginPath();
    c.moveTo(x - 3.5, height - 19);
    c.lineTo(x, height - 24);
    c.lineTo(x + 3.5, height - 19);
    c.stroke();
  }
  for (const [i, { mark, x }] of lines.entries()) {
    const picked = view.chosen.includes(mark.id);
    const strong = mark.kind === 'bar';
    c.strokeStyle = picked ? colour('spruce') : mark.kind === 'drop' ? colour('coral') : strong ? colour('ink') : colour('soft');
    c.lineWidth = picked ? 3 : strong ? 2 : 1;
    c.beginPath();
    c.moveTo(x, 18);
    c.lineTo(x, height - 20);
    c.stroke();
    c.fillStyle = picked ? colour('spruce') : colour('soft');
    c.fillText(label(c, view, mark, bars, (lines[i + 1]?.x ?? Infinity) - x - 10), x + 5, 28);
  }
  // Cuts hang on the ruler as pegs, at the frame where the picture changes.
  for (const peg of scoreOf(montage).pegs) {
    if (!peg.peg) continue;
    const x = xOf(view, frameTime(peg.frame, rate));
    if (x < -10 || x > width + 10) continue;
    c.fillStyle = '#b98a4e';
    c.strokeStyle = '#7d5a2b';
    c.lineWidth = 0.8;
    c.beginPath();
    c.moveTo(x - 3.5, height - 20);
    c.lineTo(x + 3.5, height - 20);
    c.lineTo(x + 3.5, height - 9);
    c.lineTo(x + 1.8, height - 2);
    c.lineTo(x - 1.8, height - 2);
    c.lineTo(x - 3.5, height - 9);
    c.closePath();
    c.fill();
    c.stroke();
  }
  c.strokeStyle = colour('coral');
  c.lineWidth = 2;
  c.beginPath();
  c.moveTo(width / 2, 6);
  c.lineTo(width / 2, height - 2);
  c.stroke();
}
