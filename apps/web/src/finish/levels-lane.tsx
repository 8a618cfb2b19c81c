import { useRef, useState } from 'react';
import { levelAlong, levelLines, nearestMark, toSongTime, type At, type Line, type Montage, type PlacedLevel } from '@bluster/core';
import { lineX } from '../lines/line-x.ts';
import { WAVE_HEIGHT } from '../lines/line-picture.tsx';
import { montageNow, useEditor, useMontage } from '../document/editor.ts';
import { useFinishing } from './finishing.ts';
import { oneStep } from './one-step.ts';

/** The loudest that can be drawn; as it was taken is in the middle. */
const LOUDEST = 2;
/** Nearer to a mark than this, a point is laid on it, pixels. */
const REACH_PX = 10;
const STEP = 0.05;

const yOf = (level: number): number => WAVE_HEIGHT * (1 - level / LOUDEST);
const levelAt = (y: number): number => Math.max(0, Math.min(LOUDEST, Math.round((1 - y / WAVE_HEIGHT) * LOUDEST * 50) / 50));

/** Where a point belongs that is put down at a place of a line: on the mark that is near, or at its own moment. */
function momentNear(montage: Montage, line: Line, width: number, x: number): At {
  const seconds = (px: number): number => (px / width) * line.span;
  const time = toSongTime(montage.song!.pieces, Math.max(0, line.from + seconds(x)));
  const mark = nearestMark(montage, time, seconds(REACH_PX), (m) => m.kind !== 'accent');
  return mark ? { markId: mark.id } : { time };
}

/** The level of song or clips, drawn over the sound: a click on it makes a point, which can be dragged. */
export function LevelsLane({ line, width }: { line: Line; width: number }): React.JSX.Element {
  const montage = useMontage();
  const of = useFinishing((state) => state.levelOf);
  const all = levelLines(montage)[of];
  const { run } = useEditor.getState();
  const here = all.filter((p) => p.time >= line.from - 1e-6 && p.time <= line.to + 1e-6);
  const ends = [line.from, line.to].map((time) => ({ time, level: levelAlong(all, time) }));
  const path = [ends[0]!, ...here, ends[1]!].map((p) => `${lineX(line, p.time, width)},${yOf(p.level)}`).join(' ');
  return (
    <>
      <svg className="absolute inset-0 overflow-visible" width={width} height={WAVE_HEIGHT} aria-hidden>
        <line x1={0} x2={width} y1={yOf(1)} y2={yOf(1)} className="stroke-soft/40" strokeDasharray="2 4" />
        <polyline points={path} className="fill-none stroke-spruce" strokeWidth={1.8} />
        <polyline
          points={path}
          className="cursor-copy fill-none stroke-transparent [pointer-events:stroke]"
          strokeWidth={12}
          data-testid="level-line"
          onClick={(event) => {
            const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
            const x = event.clientX - box.left;
            run({ do: 'addLevel', of, at: momentNear(montageNow(), line, width, x), level: levelAt(event.clientY - box.top) });
          }}
        />
      </svg>
      {here.map((point) => (
        <Point key={point.id} point={point} line={line} width={width} />
      ))}
    </>
  );
}

/** A point of a level: dragged along and up and down; by keys it goes up and down. */
function Point({ point, line, width }: { point: PlacedLevel; line: Line; width: number }): React.JSX.Element {
  const held = useRef<{ x: number; y: number } | null>(null);
  const [by, setBy] = useState<{ dx: number; dy: number } | null>(null);
  const { run } = useEditor.getState();
  const [x, y] = [lineX(line, point.time, width), yOf(point.level)];
  const now = { x: x + (by?.dx ?? 0), y: Math.max(0, Math.min(WAVE_HEIGHT, y + (by?.dy ?? 0))) };
  return (
    <button
      type="button"
      data-testid="level-point"
      aria-label={`Level ${Math.round(100 * point.level)} %; arrows turn it up and down`}
      title={`${Math.round(100 * levelAt(now.y))} %`}
      className="absolute size-3 -translate-x-1/2 -translate-y-1/2 cursor-move touch-none rounded-full border-2 border-spruce bg-paper"
      style={{ left: now.x, top: now.y }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = { x: e.clientX, y: e.clientY };
      }}
      onPointerMove={(e) => held.current && setBy({ dx: e.clientX - held.current.x, dy: e.clientY - held.current.y })}
      onPointerUp={() => {
        held.current = null;
        if (by && Math.abs(by.dx) + Math.abs(by.dy) > 2) {
          const at = Math.abs(by.dx) > 2 ? { at: momentNear(montageNow(), line, width, now.x) } : {};
          run({ do: 'moveLevel', id: point.id, level: levelAt(now.y), ...at });
        }
        setBy(null);
      }}
      onPointerCancel={() => {
        held.current = null;
        setBy(null);
      }}
      onKeyDown={(e) => {
        const step = { ArrowUp: STEP, ArrowDown: -STEP }[e.key];
        if (step !== undefined) oneStep({ do: 'moveLevel', id: point.id, level: point.level + step }, false);
        else if (e.key === 'Delete' || e.key === 'Backspace') run({ do: 'removeLevels', ids: [point.id] });
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
    />
  );
}
