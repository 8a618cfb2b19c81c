import { memo } from 'react';
import { framesPerSecond, transitionsOf, type Line, type PlacedTransition, type Slot, type TransitionKind } from '@bluster/core';
import { lineX } from '../lines/line-x.ts';
import { player } from '../playback/player.ts';
import { useEditor, useMontage } from '../document/editor.ts';
import { useFinishing } from './finishing.ts';

/** As wide as this a cut can be taken hold of, pixels. */
const HOLD_PX = 16;

const LOOKS = {
  dissolve: 'fill-spruce/55 stroke-spruce',
  black: 'fill-ink stroke-ink',
  white: 'fill-print stroke-ink',
  wipe: 'fill-gold/45 stroke-gold-text',
  push: 'fill-gold/45 stroke-gold-text',
  slide: 'fill-gold/45 stroke-gold-text',
  zoom: 'fill-coral/40 stroke-coral',
  haze: 'fill-spruce/20 stroke-spruce',
} as const satisfies Record<TransitionKind, string>;

interface CutsLaneProps {
  /** those on this line */
  readonly slots: readonly Slot[];
  readonly line: Line;
  readonly width: number;
  readonly height: number;
}

/** The cuts of a line, to be chosen, with the transitions that lie on them. */
export const CutsLane = memo(function CutsLane({ slots, line, width, height }: CutsLaneProps): React.JSX.Element {
  const montage = useMontage();
  const pegId = useEditor((state) => state.selection.pegId);
  const fps = framesPerSecond(montage.shape.rate);
  const on = (frame: number): boolean => frame / fps >= line.from - 0.5 / fps && frame / fps < line.to - 0.5 / fps;
  const cuts = slots.flatMap(({ index, start }) => (index > 0 && on(start.frame) ? [start] : []));
  const transitions = transitionsOf(montage).filter((t) => t.to / fps > line.from && t.from / fps < line.to);
  return (
    <>
      <svg className="pointer-events-none absolute inset-0" width={width} height={height} aria-hidden>
        {transitions.map((t) => (
          <Lens key={t.peg.id} transition={t} x={(frame) => lineX(line, frame / fps, width)} height={height} />
        ))}
      </svg>
      {cuts.map((peg) => {
        const chosen = peg.id === pegId;
        return (
          <button
            key={peg.id}
            type="button"
            className="group absolute top-0 grid place-items-center"
            style={{ left: lineX(line, peg.frame / fps, width) - HOLD_PX / 2, width: HOLD_PX, height }}
            aria-label={`Cut at ${peg.time.toFixed(2)} s`}
            aria-pressed={chosen}
            data-testid="cut"
            onClick={() => {
              useEditor.getState().select({ pegId: peg.id, markIds: [], range: null });
              useFinishing.setState({ tab: 'cuts', titleId: null });
              if (!player.state.playing) player.seek(peg.frame / fps + 1e-4);
            }}
          >
            <span
              className={`w-[5px] rounded-full ${chosen ? 'bg-spruce' : 'bg-transparent group-hover:bg-spruce/50'}`}
              style={{ height: height + 8 }}
            />
          </button>
        );
      })}
    </>
  );
});

/** A transition: a lens that reaches over the frames that it takes, widest at the cut. */
function Lens({
  transition: t,
  x,
  height,
}: {
  transition: PlacedTransition;
  x: (frame: number) => number;
  height: number;
}): React.JSX.Element {
  const [from, cut, to] = [x(t.from), x(t.cut), x(t.to)];
  const [middle, reach] = [height / 2, Math.min(height / 2 - 3, 12)];
  // At least so wide that it can be seen.
  const left = Math.min(from, cut - (t.from < t.cut ? 4 : 0));
  const right = Math.max(to, cut + (t.to > t.cut ? 4 : 0));
  const side = (end: number): string =>
    `Q ${(cut + end) / 2} ${middle - reach} ${end} ${middle} Q ${(cut + end) / 2} ${middle + reach} ${cut} ${middle + reach}`;
  const path = [
    left < cut ? `M ${cut} ${middle - reach} ${side(left)} Z` : '',
    right > cut ? `M ${cut} ${middle - reach} ${side(right)} Z` : '',
  ].join(' ');
  return <path d={path} className={LOOKS[t.transition.kind]} strokeWidth={1.2} data-testid={`transition-${t.transition.kind}`} />;
}
