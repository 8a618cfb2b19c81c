import { memo } from 'react';
import {
  barAndBeat,
  framesPerSecond,
  MOVES,
  placedMoves,
  toSongTime,
  type Line,
  type Montage,
  type PlacedMove,
  type Slot,
} from '@bluster/core';
import { lineX } from '../lines/line-x.ts';
import { useMontage } from '../document/editor.ts';

export const MOVES_HEIGHT = 20;
/** Words need so much room, pixels. */
const WORDS_PX = 74;

/** When a move arrives, where it does so before its slot ends. */
function arrives(montage: Montage, slot: Slot, { move, to }: PlacedMove): string {
  if (to >= slot.frames || !montage.song) return '';
  const kind = montage.marks.find((m) => m.id === move.to?.markId)?.kind;
  if (kind && kind !== 'beat' && kind !== 'bar') return `, arrives on the ${kind}`;
  const time = toSongTime(montage.song.pieces, (slot.start.frame + to) / framesPerSecond(montage.shape.rate));
  const at = barAndBeat(montage, time + 0.02);
  return at ? `, arrives on beat ${at.beat}` : '';
}

/** How the frames of a line's shots travel: a line that climbs while they do, with a knot where they arrive. */
export const MovesLane = memo(function MovesLane({
  slots,
  line,
  width,
}: {
  slots: readonly Slot[];
  line: Line;
  width: number;
}): React.JSX.Element {
  const montage = useMontage();
  const fps = framesPerSecond(montage.shape.rate);
  const moves = slots.flatMap((slot) => (slot.placed ? placedMoves(montage, slot).map((placed) => ({ slot, placed })) : []));
  return (
    <div className="pointer-events-none relative" style={{ height: MOVES_HEIGHT }} data-testid="moves-lane">
      <svg className="absolute inset-0 overflow-visible" width={width} height={MOVES_HEIGHT} aria-hidden>
        {moves.map(({ slot, placed }) => {
          const at = (frame: number): number =>
            lineX(line, Math.max(line.from, Math.min(line.to, (slot.start.frame + frame) / fps)), width);
          const [from, to] = [at(placed.from) + 3, at(placed.to) - 4];
          if (to - from < 4) return null;
          const rises = placed.views.to.zoom >= placed.views.from.zoom;
          return (
            <g key={`${slot.start.id} ${placed.from}`} className="stroke-spruce">
              <line x1={from} x2={to} y1={rises ? 7 : 2.5} y2={rises ? 2.5 : 7} strokeWidth={1.4} />
              <circle cx={to} cy={rises ? 2.5 : 7} r={2} className="fill-spruce" />
            </g>
          );
        })}
      </svg>
      {moves.map(({ slot, placed }) => {
        const [from, to] = [placed.from, placed.to].map((frame) =>
          lineX(line, Math.max(line.from, Math.min(line.to, (slot.start.frame + frame) / fps)), width),
        ) as [number, number];
        return to - from < WORDS_PX ? null : (
          <span
            key={`${slot.start.id} ${placed.from} words`}
            className="absolute top-[8px] truncate text-[10px] leading-[13px] text-spruce"
            style={{ left: from + 6, maxWidth: to - from - 16 }}
          >
            {MOVES[placed.move.kind].title}
            {arrives(montage, slot, placed)}
          </span>
        );
      })}
    </div>
  );
});
