import { memo, useRef, useState } from 'react';
import {
  beatsBetween,
  framesPerSecond,
  nearestMark,
  placedTitles,
  toSongTime,
  type Line,
  type Montage,
  type PlacedTitle,
} from '@bluster/core';
import { lineX } from '../lines/line-x.ts';
import { montageNow, useEditor, useMontage } from '../document/editor.ts';
import { chooseTitle, useFinishing } from './finishing.ts';

export const TITLES_HEIGHT = 18;
/** The end of a title can be dragged within so many pixels. */
const END_PX = 8;
/** No letter of the strips is wider, pixels. */
const WIDEST_LETTER_PX = 11;
/** Farther than this from a mark, a dragged title starts at a mere time, seconds. */
const REACH_S = 0.3;

/** The titles of a line: drag one to start it on another mark, drag its end to make it longer. */
export const TitlesLane = memo(function TitlesLane({ line, width }: { line: Line; width: number }): React.JSX.Element {
  const montage = useMontage();
  const fps = framesPerSecond(montage.shape.rate);
  const here = placedTitles(montage).filter(({ from, to }) => to / fps > line.from && from / fps < line.to);
  return (
    <div className="relative" style={{ height: TITLES_HEIGHT }}>
      {here.map((placed) => (
        <Strip key={placed.title.id} placed={placed} line={line} width={width} fps={fps} />
      ))}
    </div>
  );
});

/** How many beats lie between two montage times, to a quarter. */
const quartersBetween = (montage: Montage, from: number, to: number): number =>
  Math.max(0.25, Math.round(4 * beatsBetween(montage, from, to)) / 4);

function Strip({ placed, line, width, fps }: { placed: PlacedTitle; line: Line; width: number; fps: number }): React.JSX.Element {
  const chosen = useFinishing((state) => state.titleId === placed.title.id);
  const held = useRef<{ x: number; end: boolean; moved: boolean } | null>(null);
  const [drag, setDrag] = useState<{ dx: number; end: boolean } | null>(null);
  const { title, from, to } = placed;
  const [starts, ends] = [from / fps >= line.from - 1e-6, to / fps <= line.to + 1e-6];
  const left = lineX(line, Math.max(line.from, from / fps), width);
  const right = lineX(line, Math.min(line.to, to / fps), width);
  const seconds = (px: number): number => (px / width) * line.span;
  const drop = (): void => {
    if (!drag) return;
    const { run } = useEditor.getState();
    const montage = montageNow();
    const by = seconds(drag.dx);
    if (drag.end) run({ do: 'changeTitle', id: title.id, beats: Math.min(256, quartersBetween(montage, from / fps, to / fps + by)) });
    else {
      const time = toSongTime(montage.song!.pieces, Math.max(0, from / fps + by));
      const mark = nearestMark(montage, time, REACH_S, (m) => m.kind !== 'accent');
      run({ do: 'changeTitle', id: title.id, at: mark ? { markId: mark.id } : { time } });
    }
  };
  const shift = drag && !drag.end ? drag.dx : 0;
  const longer = drag?.end ? drag.dx : 0;
  const wide = Math.max(10, right - left - 1 + longer);
  const text = starts || left === 0 ? title.text.replaceAll('\n', ' / ') : '';
  // What is cut off costs the browser a layer's worth of thinking, so only what may be too long is.
  const cutOff = text.length * WIDEST_LETTER_PX + 14 > wide;
  return (
    <button
      type="button"
      className={`absolute top-0 touch-none ${cutOff ? 'truncate' : 'whitespace-nowrap'} rounded-sm border px-1.5 text-left text-[11px] leading-[15px] ${chosen ? 'border-spruce bg-spruce text-on-spruce' : 'border-edge bg-paper'} ${starts ? '' : 'rounded-l-none border-l-0'} ${ends ? '' : 'rounded-r-none border-r-0'}`}
      style={{ left: left + shift, width: wide, height: TITLES_HEIGHT - 1 }}
      title={`${title.text} · drag it to another mark, its end to make it longer`}
      data-testid="title-strip"
      onPointerDown={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        held.current = { x: e.clientX, end: ends && e.clientX > box.right - END_PX, moved: false };
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        const now = held.current;
        if (!now) return;
        now.moved ||= Math.abs(e.clientX - now.x) > 3;
        if (now.moved && (now.end || starts)) setDrag({ dx: e.clientX - now.x, end: now.end });
      }}
      onPointerUp={() => {
        held.current = null;
        drop();
        setDrag(null);
        chooseTitle(title);
      }}
      onPointerCancel={() => {
        held.current = null;
        setDrag(null);
      }}
      onKeyDown={(e) => e.key === 'Enter' && chooseTitle(title)}
    >
      {text}
      {ends && <span className="absolute inset-y-0 right-0 w-2 cursor-ew-resize" />}
    </button>
  );
}
