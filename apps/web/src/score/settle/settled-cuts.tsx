import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import {
  frameAt,
  frameTime,
  marksInUse,
  scoreOf,
  toMontageTime,
  type Montage,
  type SettleOptions,
  type SettlePlan,
  type SettledCut,
} from '@bluster/core';

const ROW_HEIGHT = 26;

/** Room for the rows that are not in sight. */
function OutOfSight({ height }: { height: number }): React.JSX.Element | null {
  return height > 0 ? <tr aria-hidden style={{ height }} /> : null;
}

/** Before and after, cut by cut; each can be given another mark or left where it is. */
export function SettledCuts({
  plan,
  montage,
  options,
  onChange,
}: {
  plan: SettlePlan;
  montage: Montage;
  options: SettleOptions;
  onChange: (choices: SettleOptions['choices']) => void;
}): React.JSX.Element {
  const { rate } = montage.shape;
  const pieces = montage.song?.pieces ?? [];
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: plan.cuts.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  const shown = rows.getVirtualItems();
  const names = new Map(scoreOf(montage).slots.map((s) => [s.start.id, s.placed ? s.placed.item.name.replace(/\.\w+$/, '') : 'empty']));
  const marks = marksInUse(montage)
    .filter((m) => m.kind !== 'accent' || options.onto === 'any')
    .flatMap((mark) => {
      const at = toMontageTime(pieces, mark.time);
      return at === null ? [] : [{ mark, frame: frameAt(at, rate) }];
    });
  const marksNear = (cut: SettledCut): typeof marks =>
    marks.filter((m) => Math.abs(m.frame - cut.toFrame) < 90 || m.mark.id === cut.markId);
  return (
    <div className="rounded border border-edge" data-testid="settle-moves">
      <div ref={scroller} className="max-h-[30vh] overflow-y-auto" tabIndex={0} role="region" aria-label="Cuts before and after">
        <table className="figures w-full text-[11.5px]">
          <thead className="sticky top-0 bg-paper text-left text-soft">
            <tr>
              <th className="pl-2 font-normal">shot</th>
              <th className="font-normal">before</th>
              <th className="font-normal">after</th>
              <th className="font-normal">moved</th>
              <th className="font-normal">speed</th>
              <th className="font-normal">mark</th>
            </tr>
          </thead>
          <tbody>
            <OutOfSight height={shown[0]?.start ?? 0} />
            {shown.map(({ index }) => {
              const cut = plan.cuts[index]!;
              return (
                <tr key={cut.pegId} data-testid="settled-cut" style={{ height: ROW_HEIGHT }}>
                  <td className="max-w-[130px] truncate pl-2">{names.get(cut.pegId) ?? ''}</td>
                  <td>{cut.fromFrame}</td>
                  <td>{cut.toFrame}</td>
                  <td className={cut.markId === null ? 'text-gold-text' : ''}>
                    {cut.toFrame === cut.fromFrame
                      ? '0'
                      : `${cut.toFrame > cut.fromFrame ? '+' : '−'}${Math.abs(cut.toFrame - cut.fromFrame)}`}
                  </td>
                  <td>{Math.abs(cut.speed - 1) < 5e-3 ? '' : `${Math.round(cut.speed * 100)} %`}</td>
                  <td>
                    <select
                      aria-label={`Mark of the cut at frame ${cut.fromFrame}`}
                      value={cut.markId ?? ''}
                      onChange={(e) => onChange({ ...options.choices, [cut.pegId]: e.target.value === '' ? null : e.target.value })}
                      className="rounded border border-edge bg-paper"
                    >
                      <option value="">stays free</option>
                      {marksNear(cut).map((m) => (
                        <option key={m.mark.id} value={m.mark.id}>
                          {m.mark.kind} {frameTime(m.frame, rate).toFixed(2)}
                        </option>
                      ))}
                    </select>
                  </td>
                </tr>
              );
            })}
            <OutOfSight height={rows.getTotalSize() - (shown.at(-1)?.end ?? 0)} />
          </tbody>
        </table>
      </div>
      <p className="border-t border-edge px-2 py-1 text-[11.5px] text-soft">
        {plan.settled} of {plan.cuts.length} on marks; {plan.movedFrames} frames of movement in all, {plan.worstFrames} at the most.
      </p>
    </div>
  );
}
