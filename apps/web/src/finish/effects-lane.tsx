import { bisector } from 'd3-array';
import { memo, useState } from 'react';
import {
  EFFECTS,
  barAndBeat,
  firingsOf,
  framesPerSecond,
  placedMarks,
  toSongTime,
  type Firing,
  type Line,
  type Montage,
  type PlacedMark,
} from '@bluster/core';
import { lineX } from '../lines/line-x.ts';
import { SignImage } from '../lines/sign-image.tsx';
import { useEditor, useMontage } from '../document/editor.ts';
import { EFFECT_SIGNS } from './effect-signs.tsx';
import { toggleEffectOn, useFinishing } from './finishing.ts';

export const LANE_HEIGHT = 20;
/** A click belongs to a mark no farther away than this, pixels. */
const REACH_PX = 28;
/** From one sign on a mark to the next, pixels. */
const APART_PX = 13;

const firingFrames = bisector((f: Firing) => f.frame);

/** The mark under the pointer that an effect can be laid on: no accent, of which there are too many. */
function markAt(montage: Montage, line: Line, width: number, x: number): PlacedMark | null {
  let best: PlacedMark | null = null;
  const far = (p: PlacedMark): number => Math.abs(lineX(line, p.time, width) - x);
  for (const p of placedMarks(montage))
    if (
      p.mark.kind !== 'accent' &&
      p.time >= line.from - 1e-6 &&
      p.time < line.to - 1e-6 &&
      far(p) <= REACH_PX &&
      (!best || far(p) < far(best))
    )
      best = p;
  return best;
}

function said(montage: Montage, { effect, frame }: Firing): string {
  const time = frame / framesPerSecond(montage.shape.rate);
  const at = montage.song ? barAndBeat(montage, toSongTime(montage.song.pieces, time) + 0.05) : null;
  return `${EFFECTS[effect.kind].title} at ${at ? `bar ${at.bar}, beat ${at.beat}` : `${time.toFixed(2)} s`}`;
}

/** Where effects fire on a line. A click under a mark lays the chosen effect there; one on a sign takes it away. */
export const EffectsLane = memo(function EffectsLane({ line, width }: { line: Line; width: number }): React.JSX.Element {
  const montage = useMontage();
  const kind = useFinishing((state) => state.kind);
  const [over, setOver] = useState<number | null>(null);
  const fps = framesPerSecond(montage.shape.rate);
  const all = firingsOf(montage);
  const firings = all.slice(firingFrames.left(all, line.from * fps - 0.5), firingFrames.left(all, line.to * fps - 0.5));
  const at = (event: React.PointerEvent<HTMLElement>): PlacedMark | null =>
    markAt(montage, line, width, event.clientX - event.currentTarget.getBoundingClientRect().left);
  const { Sign } = EFFECT_SIGNS[kind];
  return (
    <div
      className="relative cursor-pointer rounded-sm bg-cloth-2/50"
      style={{ height: LANE_HEIGHT, width: lineX(line, line.to, width) }}
      data-testid="effects-lane"
      onPointerMove={(e) => {
        const near = at(e);
        setOver(near ? lineX(line, near.time, width) : null);
      }}
      onPointerLeave={() => setOver(null)}
      onPointerDown={(e) => {
        const near = at(e);
        if (near) toggleEffectOn(kind, near.mark.id);
      }}
    >
      {over !== null && <Sign size={13} className="pointer-events-none absolute top-[3.5px] text-soft/60" style={{ left: over - 6.5 }} />}
      {firings.map((firing) => {
        // Those on one mark lie beside each other, together in its middle.
        const beside = firings.filter((f) => f.frame === firing.frame);
        const apart = (beside.indexOf(firing) - (beside.length - 1) / 2) * APART_PX;
        return (
          <FiringSign
            key={`${firing.effect.id} ${firing.frame}`}
            firing={firing}
            label={said(montage, firing)}
            x={lineX(line, firing.frame / fps, width) + apart}
          />
        );
      })}
    </div>
  );
});

function FiringSign({ firing, label, x }: { firing: Firing; label: string; x: number }): React.JSX.Element {
  const { effect, at } = firing;
  const { drawn, ink } = EFFECT_SIGNS[effect.kind];
  return (
    <button
      type="button"
      className="absolute top-[2px] grid size-4 place-items-center hover:z-10 hover:rounded-sm hover:bg-paper"
      style={{ left: x - 8 }}
      aria-label={`${label}, remove it`}
      title={`${label} · click takes it away`}
      data-testid={`firing-${effect.kind}`}
      onPointerDown={(e) => e.stopPropagation()}
      onClick={() => useEditor.getState().run({ do: 'toggleEffect', kind: effect.kind, markId: at ?? '', firing: [{ id: effect.id, at }] })}
    >
      <SignImage drawn={drawn} size={13} ink={ink} strength={0.45 + 0.55 * effect.strength} />
    </button>
  );
}
