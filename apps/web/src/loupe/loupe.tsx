import { useEffect, useRef, useState } from 'react';
import { cutFrame, frameTime, marksInUse, nearestMark, toMontageTime, type Mark, type Montage } from '@bluster/core';
import { useTheme } from '../interface/theme.ts';
import { useSize } from '../interface/use-size.ts';
import { player } from '../playback/player.ts';
import { useSongSound } from '../playback/song-sound.ts';
import { usePlayhead } from '../playback/use-player.ts';
import { montageNow, useEditor, useMontage } from '../document/editor.ts';
import { useListening } from '../marking/listening.ts';
import { drawLoupe, timeOf, xOf, type View } from './loupe-drawing.ts';

/** What the loupe's whole width stands for, frames. */
const FRAMES_WIDE = 100;
const GRAB_PX = 7;

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
    drawLoupe(c, view.current, buffer, curves);
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
    <footer className="relative h-full min-w-0 bg-paper" aria-label="Loupe">
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
        <canvas ref={canvas} className="pointer-events-none absolute inset-0 h-full w-full will-change-transform" />
      </div>
      <p className="pointer-events-none absolute top-0.5 left-2.5 text-[10.5px] text-soft">
        {one && oneAt !== null && oneAt !== undefined
          ? `${one.kind} at ${one.time.toFixed(3)} s · frame ${cutFrame(oneAt, montage.shape.rate, 'nearest')} · drag, Alt + arrows nudge, Del takes it away`
          : `Loupe · ${FRAMES_WIDE} frames${montage.song ? ' · drag a mark, double-click adds a beat' : ', once there is a song'}`}
      </p>
    </footer>
  );
}
