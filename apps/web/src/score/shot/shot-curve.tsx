import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { clipLength, frameTime, markInSlot, marksInUse, type Montage, type PlacedShot, type Slot } from '@bluster/core';
import { useSize } from '../../interface/use-size.ts';
import { useEditor } from '../../document/editor.ts';
import { CurveHandles, curveDomain } from './curve-handles.tsx';

const HEIGHT = 104;
const SAMPLES = 80;

/**
 * Which moment of the clip is seen when: time in the slot to the right, time in the clip upwards. The ends and the tied
 * frames are dragged up and down; a click on a mark's line ties the frame that is seen there.
 */
export function ShotCurve({ slot, placed, montage }: { slot: Slot; placed: PlacedShot; montage: Montage }): React.JSX.Element {
  const [hold, { width }] = useSize<HTMLDivElement>();
  const { shot, item, curve, ties } = placed;
  const { run } = useEditor.getState();
  const [low, high] = curveDomain(placed, slot.length, clipLength(item));
  const x = scaleLinear([0, slot.length], [10, Math.max(11, width - 10)]);
  const y = scaleLinear([low, high], [HEIGHT - 6, 6]);
  const points = Array.from({ length: SAMPLES + 1 }, (_, i) => (i * slot.length) / SAMPLES);
  const path = line<number>()
    .x((t) => x(t))
    .y((t) => y(Math.max(low, Math.min(high, curve.source(t)))))(points);
  const marks = marksInUse(montage).flatMap((mark) => {
    const into = markInSlot(montage, mark, slot);
    return into === null || (mark.kind === 'accent' && slot.length > 4) ? [] : [{ mark, into }];
  });
  const tie = (markId: string, into: number): void => {
    if (ties.some((t) => t.markId === markId)) run({ do: 'untieFrame', id: shot.id, markId });
    else run({ do: 'tieFrame', id: shot.id, markId, source: curve.source(frameTime(into, montage.shape.rate)) });
  };
  return (
    <div ref={hold}>
      <svg
        width="100%"
        height={HEIGHT}
        className="rounded border border-edge bg-cloth"
        role="img"
        aria-label="Speed curve of the shot"
        data-testid="shot-curve"
      >
        {marks.map(({ mark, into }) => (
          <g key={mark.id} className="cursor-pointer" data-testid="curve-mark" onClick={() => tie(mark.id, into)}>
            <title>{`Tie the frame seen on this ${mark.kind}, or untie it`}</title>
            <rect x={x(frameTime(into, montage.shape.rate)) - 5} y="0" width="10" height={HEIGHT} fill="transparent" />
            <line
              x1={x(frameTime(into, montage.shape.rate))}
              x2={x(frameTime(into, montage.shape.rate))}
              y1={mark.kind === 'accent' ? HEIGHT - 12 : 0}
              y2={HEIGHT}
              stroke={mark.kind === 'drop' ? 'var(--coral)' : 'var(--ink)'}
              strokeWidth={mark.kind === 'bar' || mark.kind === 'drop' ? 1.4 : 0.7}
              opacity="0.55"
            />
          </g>
        ))}
        <path d={path ?? ''} fill="none" stroke="var(--spruce)" strokeWidth="1.8" pointerEvents="none" />
        <CurveHandles slot={slot} placed={placed} montage={montage} x={x} y={y} radius={5} />
      </svg>
    </div>
  );
}
