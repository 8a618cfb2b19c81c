import type { ScaleLinear } from 'd3-scale';
import { useState } from 'react';
import { frameTime, onFrame, type Montage, type PlacedShot, type Slot } from '@bluster/core';
import { useEditor } from '../../document/editor.ts';

interface HandlesProps {
  readonly slot: Slot;
  readonly placed: PlacedShot;
  readonly montage: Montage;
  /** seconds of the slot to pixels, and clip seconds to pixels, in the drawing that holds the handles */
  readonly x: ScaleLinear<number, number>;
  readonly y: ScaleLinear<number, number>;
  readonly radius: number;
}

interface Held {
  readonly kind: 'in' | 'out' | 'tie';
  readonly markId: string;
  readonly source: number;
}

/** The ends and the tied frames of a shot's speed curve, dragged up and down to other frames of the clip. */
export function CurveHandles({ slot, placed, montage, x, y, radius }: HandlesProps): React.JSX.Element {
  const [held, setHeld] = useState<Held | null>(null);
  const { shot, item, curve, ties } = placed;
  const { run } = useEditor.getState();
  const [low, high] = y.domain() as [number, number];
  const inside = (source: number): number => Math.max(low, Math.min(high, source));
  const sourceAt = (event: React.PointerEvent<SVGCircleElement>): number => {
    const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
    return onFrame(item, inside(y.invert(event.clientY - box.top)));
  };
  const drop = (): void => {
    setHeld(null);
    if (!held) return;
    const { kind, markId, source } = held;
    if (kind === 'tie') run({ do: 'tieFrame', id: shot.id, markId, source });
    else run({ do: 'setSourceOut', id: shot.id, ...(kind === 'in' ? { sourceIn: source } : { sourceOut: source }) });
  };
  const { kind } = shot.retime;
  const places: (Held & { readonly at: number })[] = [
    ...(kind !== 'freeze' && ties[0]?.into !== 0 ? [{ kind: 'in' as const, markId: '', at: 0, source: curve.source(0) }] : []),
    ...(kind === 'fit' || kind === 'tied'
      ? [{ kind: 'out' as const, markId: '', at: slot.length, source: curve.source(slot.length) }]
      : []),
    ...ties.map((t) => ({ kind: 'tie' as const, markId: t.markId, at: frameTime(t.into, montage.shape.rate), source: t.source })),
  ];
  return (
    <>
      {places.map((place) => (
        <circle
          key={`${place.kind}${place.markId}`}
          cx={x(place.at)}
          cy={y(inside(held?.kind === place.kind && held.markId === place.markId ? held.source : place.source))}
          r={radius}
          fill={place.kind === 'tie' ? 'var(--coral)' : 'var(--paper)'}
          stroke={place.kind === 'tie' ? 'var(--paper)' : 'var(--spruce)'}
          strokeWidth="1.6"
          className="pointer-events-auto cursor-ns-resize touch-none"
          data-testid={`curve-${place.kind}`}
          onPointerDown={(event) => {
            event.stopPropagation();
            event.currentTarget.setPointerCapture(event.pointerId);
            setHeld(place);
          }}
          onPointerMove={(event) => held && setHeld({ ...held, source: sourceAt(event) })}
          onPointerUp={drop}
          onPointerCancel={() => setHeld(null)}
        />
      ))}
      {held && (
        <text
          x="10"
          y={Math.max(...y.range()) - 2}
          fontSize="10.5"
          fill="var(--ink)"
          stroke="var(--paper)"
          strokeWidth="2.5"
          paintOrder="stroke"
        >
          clip frame {Math.round((held.source * item.rate.num) / item.rate.den)}
        </text>
      )}
    </>
  );
}

/** Clip seconds that a curve's drawing spans: what is seen, and some room to drag further. */
export function curveDomain({ curve, ties }: PlacedShot, length: number, whole: number): [number, number] {
  const ends = [curve.source(0), curve.source(length), ...ties.map((t) => t.source)];
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const room = Math.max(0.4, (high - low) * 0.25);
  return [Math.max(0, low - room), Math.min(whole, high + room)];
}
