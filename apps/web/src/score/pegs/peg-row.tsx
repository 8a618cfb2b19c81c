import { useRef, useState } from 'react';
import {
  frameAt,
  frameTime,
  marksInUse,
  toMontageTime,
  type CutPlace,
  type Line,
  type Mark,
  type Montage,
  type PlacedPeg,
} from '@bluster/core';
import { lineX } from '../../lines/line-x.ts';
import { player } from '../../playback/player.ts';
import { useEditor, useMontage } from '../../document/editor.ts';
import { PEG_PX, PegShape } from '../../lines/peg-shape.tsx';

const NEAR_PX = 11;

/** The mark nearest to a place on a line, if it is near. */
function markNear(montage: Montage, line: Line, width: number, x: number): { x: number; mark: Mark } | null {
  const pieces = montage.song?.pieces ?? [];
  let best: { x: number; mark: Mark } | null = null;
  for (const mark of marksInUse(montage)) {
    const time = toMontageTime(pieces, mark.time);
    if (time === null || time < line.from - 1e-6 || time >= line.to) continue;
    const at = lineX(line, time, width);
    if (Math.abs(at - x) < NEAR_PX && (!best || Math.abs(at - x) < Math.abs(best.x - x))) best = { x: at, mark };
  }
  return best;
}

/** Where a cut that is dropped on a line goes: to the mark that is near, or to the frame. */
export function placeNear(montage: Montage, line: Line, width: number, x: number): CutPlace {
  const near = markNear(montage, line, width, x);
  return near ? { markId: near.mark.id } : { frame: frameAt(line.from + (x / width) * line.span, montage.shape.rate) };
}

/** The washing line of one line of the score: pegs are hung on marks by a click, dragged to others, and chosen. */
export function PegRow({ line, pegs, width }: { line: Line; pegs: readonly PlacedPeg[]; width: number }): React.JSX.Element {
  const montage = useMontage();
  const chosen = useEditor((state) => state.selection.pegId);
  const [ghost, setGhost] = useState<{ x: number; mark: Mark | null } | null>(null);
  const drag = useRef<{ id: string; fromX: number; moved: boolean } | null>(null);
  const row = useRef<HTMLDivElement>(null);
  const near = (x: number): { x: number; mark: Mark } | null => markNear(montage, line, width, x);
  const offset = (event: React.MouseEvent): number => event.clientX - row.current!.getBoundingClientRect().left;
  const { run, select } = useEditor.getState();

  const hover = (event: React.PointerEvent): void => {
    if (drag.current) return;
    setGhost(near(offset(event)));
  };
  // A finger comes without having hovered.
  const hang = (event: React.MouseEvent): void => {
    const place = near(offset(event));
    if (place) run({ do: 'hangPeg', markId: place.mark.id });
    setGhost(null);
  };
  const dragMove = (event: React.PointerEvent): void => {
    const held = drag.current;
    if (!held) return;
    const x = offset(event);
    held.moved ||= Math.abs(x - held.fromX) > 3;
    if (held.moved) setGhost(near(x) ?? { x, mark: null });
  };
  const dragEnd = (keepIn: boolean): void => {
    const held = drag.current;
    drag.current = null;
    // The pictures on both sides stay in their time; with Shift the next shot keeps its first picture instead.
    if (held?.moved && ghost) {
      if (keepIn && ghost.mark) run({ do: 'movePeg', id: held.id, to: { markId: ghost.mark.id } });
      else run({ do: 'rollCut', id: held.id, to: placeNear(montage, line, width, ghost.x) });
    }
    setGhost(null);
  };
  return (
    <div
      ref={row}
      className="absolute inset-x-0 h-[18px] cursor-pointer"
      data-testid={`peg-row-${line.index}`}
      onPointerMove={hover}
      onPointerLeave={() => !drag.current && setGhost(null)}
      onClick={hang}
    >
      {ghost && (
        <span className="pointer-events-none absolute -translate-x-1/2" style={{ left: ghost.x, top: 0 }}>
          <PegShape ghost free={!ghost.mark} />
        </span>
      )}
      {pegs.map((peg) => (
        <button
          key={peg.id}
          type="button"
          data-testid="peg"
          className="absolute top-0 h-[17px] w-[12px] touch-none"
          style={{ left: lineX(line, peg.time, width) - PEG_PX.width / 2 }}
          data-frame={peg.frame}
          aria-pressed={chosen === peg.id}
          aria-label={`Peg on ${peg.mark ? `a ${peg.mark.kind}` : 'no mark'} at frame ${peg.frame}`}
          title={`${peg.mark ? `on a ${peg.mark.kind}` : 'free, on no mark'} · frame ${peg.frame} · drag to another mark or off all marks, Del takes it away`}
          onClick={(e) => {
            e.stopPropagation();
            select({ pegId: peg.id, markIds: peg.mark ? [peg.mark.id] : [], slotStart: null });
            if (!player.state.playing) player.seek(frameTime(peg.frame, montage.shape.rate) + 0.0005);
          }}
          onPointerDown={(e) => {
            drag.current = { id: peg.id, fromX: offset(e), moved: false };
            e.currentTarget.setPointerCapture(e.pointerId);
          }}
          onPointerMove={dragMove}
          onPointerUp={(e) => dragEnd(e.shiftKey)}
          onPointerCancel={() => {
            drag.current = null;
            setGhost(null);
          }}
        >
          {chosen === peg.id && <PegShape chosen free={!peg.mark} />}
        </button>
      ))}
    </div>
  );
}
