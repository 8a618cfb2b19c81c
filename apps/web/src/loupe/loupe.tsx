import { useEffect, useRef, useState } from 'react';
import {
  cutFrame,
  frameTime,
  framesPerSecond,
  marksInUse,
  nearestMark,
  scoreOf,
  toMontageTime,
  type Mark,
  type Montage,
  type SongPiece,
} from '@bluster/core';
import { useTheme } from '../interface/theme.ts';
import { useSize } from '../interface/use-size.ts';
import { themeColours } from '../lines/colours.ts';
import { player } from '../playback/player.ts';
import { useSongSound } from '../playback/song-sound.ts';
import { usePlayhead } from '../playback/use-player.ts';
import { montageNow, useEditor, useMontage } from '../project/editor.ts';
import { useListening } from '../song/listening.ts';
import type { OnsetCurves } from '../song/listening.worker.ts';
import { onsetNear } from '../song/repairs.ts';

/** What the loupe's whole width stands for, frames. */
const FRAMES_WIDE = 100;
const GRAB_PX = 7;

interface View {
  readonly montage: Montage;
  readonly pieces: readonly SongPiece[];
  readonly centre: number;
  readonly span: number;
  readonly width: number;
  readonly height: number;
  readonly chosen: readonly string[];
}

const xOf = (view: View, time: number): number => ((time - view.centre) / view.span + 0.5) * view.width;
const timeOf = (view: View, x: number): number => (x / view.width - 0.5) * view.span + view.centre;

/** How far the nearest onset is from a mark, in ms and frames. */
function onsetText({ montage }: View, mark: Mark): string {
  const onset = onsetNear(montage, mark.time);
  if (!onset) return '';
  const off = onset.time - mark.time;
  const ms = Math.round(Math.abs(off) * 1000);
  if (ms === 0) return ' · on its onset';
  return ` · onset ${ms} ms ${off > 0 ? 'later' : 'earlier'} (${(Math.abs(off) * framesPerSecond(montage.shape.rate)).toFixed(1)} f)`;
}

/** Names of marks as the loupe writes them, with how far their cut is off. */
function label(view: View, mark: Mark, bars: ReadonlyMap<string, number>): string {
  const kind = mark.kind === 'bar' ? `bar ${bars.get(mark.id) ?? ''}` : mark.kind === 'cue' ? `“${mark.label ?? ''}”` : mark.kind;
  const name = `${kind}${mark.locked ? ' · locked' : ''}${onsetText(view, mark)}`;
  const peg = scoreOf(view.montage).pegs.find((p) => p.mark?.id === mark.id);
  if (!peg) return name;
  const off = (frameTime(peg.frame, view.montage.shape.rate) - peg.time) * framesPerSecond(view.montage.shape.rate);
  return `${name} · cut ${Math.abs(off) < 0.05 ? 'on it' : `${Math.abs(off).toFixed(1)} frame ${off > 0 ? 'late' : 'early'}`}`;
}

function drawSound(c: CanvasRenderingContext2D, view: View, buffer: AudioBuffer, colour: string): void {
  const left = buffer.getChannelData(0);
  const right = buffer.numberOfChannels > 1 ? buffer.getChannelData(1) : left;
  const { width, height, pieces } = view;
  const middle = height * 0.53;
  const tall = height * 0.3;
  c.fillStyle = colour;
  const perPixel = (view.span / width) * buffer.sampleRate;
  let before = 0;
  for (const piece of pieces) {
    const length = piece.to - piece.from;
    const from = Math.max(0, Math.floor(xOf(view, before)));
    const to = Math.min(width, xOf(view, before + length));
    for (let x = from; x < to; x++) {
      const start = Math.round((timeOf(view, x) - before + piece.from) * buffer.sampleRate);
      let low = 0;
      let high = 0;
      for (let i = Math.max(0, start); i < Math.min(left.length, start + perPixel); i++) {
        const v = (left[i]! + right[i]!) / 2;
        if (v < low) low = v;
        if (v > high) high = v;
      }
      c.fillRect(x, middle - high * tall - 0.4, 1, (high - low) * tall + 0.8);
    }
    before += length;
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

function draw(c: CanvasRenderingContext2D, view: View, buffer: AudioBuffer | null, curves: OnsetCurves | null): void {
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
  let labelled = -Infinity;
  for (const mark of marksInUse(montage)) {
    const time = toMontageTime(view.pieces, mark.time);
    if (time === null || Math.abs(time - view.centre) > view.span * 0.55) continue;
    const x = Math.round(xOf(view, time)) + 0.5;
    const picked = view.chosen.includes(mark.id);
    if (mark.kind === 'accent') {
      c.strokeStyle = picked ? colour('spruce') : colour('soft');
      c.lineWidth = 1.3;
      c.beginPath();
      c.moveTo(x - 3.5, height - 19);
      c.lineTo(x, height - 24);
      c.lineTo(x + 3.5, height - 19);
      c.stroke();
      continue;
    }
    const strong = mark.kind === 'bar';
    c.strokeStyle = picked ? colour('spruce') : mark.kind === 'drop' ? colour('coral') : strong ? colour('ink') : colour('soft');
    c.lineWidth = picked ? 3 : strong ? 2 : 1;
    c.beginPath();
    c.moveTo(x, 18);
    c.lineTo(x, height - 20);
    c.stroke();
    if (x > labelled) {
      const text = label(view, mark, bars);
      c.fillStyle = picked ? colour('spruce') : colour('soft');
      c.fillText(text, x + 5, 28);
      labelled = x + c.measureText(text).width + 8;
    }
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

/** A second or two around the playhead, at frame accuracy: marks are dragged, added and taken away here. */
export function Loupe({ wholeSong }: { wholeSong: boolean }): React.JSX.Element {
  const montage = useMontage();
  const chosen = useEditor((state) => state.selection.markIds);
  const buffer = useSongSound((state) => state.buffer);
  const curves = useListening((state) => (state.assetId === montage.song?.assetId ? state.curves : null));
  const { theme } = useTheme();
  const [hold, size] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const drag = useRef<{ id: string; fromX: number; by: number; moved: boolean } | { scrub: number; from: number; moved: boolean } | null>(
    null,
  );
  const [dragBy, setDragBy] = useState<{ id: string; by: number } | null>(null);
  const view = useRef<View | null>(null);

  const pieces = montage.song ? (wholeSong ? [{ from: 0, to: montage.song.length }] : montage.song.pieces) : [];
  const span = frameTime(FRAMES_WIDE, montage.shape.rate);
  const shown: Montage = dragBy
    ? { ...montage, marks: montage.marks.map((m) => (m.id === dragBy.id ? { ...m, time: m.time + dragBy.by } : m)) }
    : montage;

  const paint = (centre: number): void => {
    const element = canvas.current;
    const c = element?.getContext('2d');
    if (!element || !c || size.width === 0) return;
    const ratio = devicePixelRatio;
    if (element.width !== Math.round(size.width * ratio) || element.height !== Math.round(size.height * ratio)) {
      element.width = Math.round(size.width * ratio);
      element.height = Math.round(size.height * ratio);
    }
    c.setTransform(ratio, 0, 0, ratio, 0, 0);
    view.current = { montage: shown, pieces, centre, span, width: size.width, height: size.height, chosen };
    draw(c, view.current, buffer, curves);
  };
  usePlayhead(paint);
  useEffect(() => paint(player.time()));

  const markAt = (x: number): Mark | null => {
    const v = view.current;
    if (!v) return null;
    let best: Mark | null = null;
    let distance = GRAB_PX;
    for (const m of marksInUse(montage)) {
      if (m.kind === 'accent') continue;
      const time = toMontageTime(pieces, m.time);
      const d = time === null ? Infinity : Math.abs(xOf(v, time) - x);
      if (d < distance) [best, distance] = [m, d];
    }
    return best;
  };

  const down = (event: React.PointerEvent<HTMLDivElement>): void => {
    const x = event.nativeEvent.offsetX;
    const mark = markAt(x);
    event.currentTarget.setPointerCapture(event.pointerId);
    const { select } = useEditor.getState();
    if (mark) {
      select({ markIds: event.shiftKey ? [...chosen.filter((id) => id !== mark.id), mark.id] : [mark.id], pegId: null });
      drag.current = { id: mark.id, fromX: x, by: 0, moved: false };
    } else {
      if (!player.state.playing) select({ markIds: [] });
      drag.current = { scrub: x, from: player.time(), moved: false };
    }
  };
  const move = (event: React.PointerEvent<HTMLDivElement>): void => {
    const v = view.current;
    const held = drag.current;
    if (!v || !held) return;
    const x = event.nativeEvent.offsetX;
    if ('id' in held) {
      held.by = ((x - held.fromX) / v.width) * v.span;
      held.moved ||= Math.abs(x - held.fromX) > 2;
      if (held.moved) setDragBy({ id: held.id, by: held.by });
    } else if (Math.abs(x - held.scrub) > 2 || held.moved) {
      held.moved = true;
      player.pause();
      player.seek(held.from - ((x - held.scrub) / v.width) * v.span);
    }
  };
  const up = (): void => {
    const held = drag.current;
    drag.current = null;
    if (held && 'id' in held && held.moved) useEditor.getState().run({ do: 'moveMarks', ids: [held.id], by: held.by });
    setDragBy(null);
  };
  const add = (event: React.MouseEvent<HTMLDivElement>): void => {
    const v = view.current;
    if (!v || !montage.song || markAt(event.nativeEvent.offsetX)) return;
    const time = timeOf(v, event.nativeEvent.offsetX);
    let before = 0;
    for (const piece of pieces) {
      if (time >= before && time < before + piece.to - piece.from)
        useEditor.getState().run({ do: 'addMark', kind: 'beat', time: time - before + piece.from });
      before += piece.to - piece.from;
    }
    const added = nearestMark(montageNow(), time, 0.002);
    if (added) useEditor.getState().select({ markIds: [added.id] });
  };

  const one = chosen.length === 1 ? montage.marks.find((m) => m.id === chosen[0]) : undefined;
  const oneAt = one && toMontageTime(pieces, one.time);
  return (
    <footer className="relative min-w-0 border-t border-edge bg-paper" aria-label="Loupe">
      <div
        ref={hold}
        role="application"
        aria-label="Loupe: drag a mark, double-click to add a beat, Delete takes the chosen one away"
        data-testid="loupe"
        data-drawn={theme}
        className="absolute inset-0 cursor-ew-resize touch-none"
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={up}
        onDoubleClick={add}
      >
        <canvas ref={canvas} className="pointer-events-none absolute inset-0 h-full w-full" />
      </div>
      <p className="pointer-events-none absolute top-0.5 left-2.5 text-[10.5px] text-soft">
        {one && oneAt !== null && oneAt !== undefined
          ? `${one.kind} at ${one.time.toFixed(3)} s · frame ${cutFrame(oneAt, montage.shape.rate, 'nearest')} · drag, Alt + arrows nudge, Del takes it away`
          : `Loupe · ${FRAMES_WIDE} frames · drag a mark, double-click adds a beat`}
      </p>
    </footer>
  );
}
