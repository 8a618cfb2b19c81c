import { line, scaleLinear } from 'd3';
import { useRef, useState } from 'react';
import { clipLength, frameTime, markInSlot, marksInUse, onFrame, type Montage, type PlacedShot, type Slot } from '@bluster/core';
import { useSize } from '../interface/use-size.ts';
import { useEditor } from '../project/editor.ts';

const HEIGHT = 104;
const SAMPLES = 80;

/**
 * Which moment of the clip is seen when: time in the slot to the right, time in the clip upwards. The ends and the tied
 * frames are dragged up and down; a click on a mark's line ties the frame that is seen there.
 */
export function ShotCurve({ slot, placed, montage }: { slot: Slot; placed: PlacedShot; montage: Montage }): React.JSX.Element {
  const [hold, { width }] = useSize<HTMLDivElement>();
  const [drag, setDrag] = useState<{ kind: 'in' | 'out' | 'tie'; markId: string; source: number } | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const { shot, item, curve, ties } = placed;
  const { run } = useEditor.getState();
  const whole = clipLength(item);
  const ends = [curve.source(0), curve.source(slot.length), ...ties.map((t) => t.source)];
  const room = Math.max(0.4, (Math.max(...ends) - Math.min(...ends)) * 0.25);
  const [low, high] = [Math.max(0, Math.min(...ends) - room), Math.min(whole, Math.max(...ends) + room)];
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
  const sourceAt = (event: React.PointerEvent): number => {
    const box = svg.current!.getBoundingClientRect();
    return onFrame(item, Math.max(low, Math.min(high, y.invert(event.clientY - box.top))));
  };
  const grab = (kind: 'in' | 'out' | 'tie', markId: string, source: number) => (event: React.PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    setDrag({ kind, markId, source });
  };
  const drop = (): void => {
    if (!drag) return;
    const { kind, markId, source } = drag;
    setDrag(null);
    if (kind === 'tie') run({ do: 'tieFrame', id: shot.id, markId, source });
    else run({ do: 'setSourceOut', id: shot.id, ...(kind === 'in' ? { sourceIn: source } : { sourceOut: source }) });
  };
  const tie = (markId: string, into: number): void => {
    if (ties.some((t) => t.markId === markId)) run({ do: 'untieFrame', id: shot.id, markId });
    else run({ do: 'tieFrame', id: shot.id, markId, source: curve.source(frameTime(into, montage.shape.rate)) });
  };
  const handle = (kind: 'in' | 'out' | 'tie', markId: string, at: number, source: number): React.JSX.Element => {
    const moved = drag?.kind === kind && drag.markId === markId ? drag.source : source;
    return (
      <circle
        key={`${kind}${markId}`}
        cx={x(at)}
        cy={y(Math.max(low, Math.min(high, moved)))}
        r={kind === 'tie' ? 5 : 4.5}
        fill={kind === 'tie' ? 'var(--coral)' : 'var(--paper)'}
        stroke={kind === 'tie' ? 'var(--paper)' : 'var(--spruce)'}
        strokeWidth="1.6"
        className="cursor-ns-resize touch-none"
        data-testid={`curve-${kind}`}
        onPointerDown={grab(kind, markId, source)}
        onPointerMove={(e) => drag && setDrag({ ...drag, source: sourceAt(e) })}
        onPointerUp={drop}
        onPointerCancel={() => setDrag(null)}
      />
    );
  };
  return (
    <div ref={hold}>
      <svg
        ref={svg}
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
        {shot.retime.kind !== 'freeze' && ties[0]?.into !== 0 && handle('in', '', 0, curve.source(0))}
        {shot.retime.kind !== 'freeze' && shot.retime.kind !== 'rate' && handle('out', '', slot.length, curve.source(slot.length))}
        {ties.map((t) => handle('tie', t.markId, frameTime(t.into, montage.shape.rate), t.source))}
        {drag && (
          <text x="10" y={HEIGHT - 8} fontSize="10.5" fill="var(--ink)">
            clip frame {Math.round((drag.source * item.rate.num) / item.rate.den)}
          </text>
        )}
      </svg>
    </div>
  );
}
