import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { clipLength, type PlacedShot, type Slot } from '@bluster/core';
import { useMontage } from '../../document/editor.ts';
import { CurveHandles, curveDomain } from './curve-handles.tsx';

interface CurveOverProps {
  readonly slot: Slot;
  readonly placed: PlacedShot;
  readonly width: number;
  readonly height: number;
  /** whether its ends and ties can be dragged */
  readonly held: boolean;
  readonly style: React.CSSProperties;
}

/** The run of a retimed shot drawn over its print: straight is even, bent is eased, falling is backwards. */
export function CurveOver({ slot, placed, width, height, held, style }: CurveOverProps): React.JSX.Element {
  const montage = useMontage();
  const domain = curveDomain(placed, slot.length, clipLength(placed.item));
  const x = scaleLinear([0, slot.length], [held ? 5 : 0, width - (held ? 5 : 0)]);
  const y = scaleLinear(domain, [height - 3, 3]);
  const times = Array.from({ length: 25 }, (_, i) => (i / 24) * slot.length);
  const d = line<number>()
    .x((t) => x(t))
    .y((t) => y(Math.max(domain[0], Math.min(domain[1], placed.curve.source(t)))))(times)!;
  return (
    <svg className="pointer-events-none absolute overflow-visible" style={{ ...style, width, height }} data-testid="curve-over" aria-hidden>
      <path d={d} fill="none" stroke="var(--night)" strokeWidth="3.4" opacity="0.55" />
      <path d={d} fill="none" stroke="#ffffff" strokeWidth="1.6" />
      {held && <CurveHandles slot={slot} placed={placed} montage={montage} x={x} y={y} radius={4} />}
    </svg>
  );
}
