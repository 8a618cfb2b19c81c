import { Button } from '../../interface/button.tsx';
import { Dialog } from '../../interface/dialog.tsx';
import type { Remedy } from '@bluster/core';
import { useHanging } from './hanging.ts';

const NAMES: Record<Remedy, string> = {
  handles: 'Show more of the clip, beyond its select',
  slow: 'Slow it down',
  hold: 'Hold its last frame',
  gap: 'Leave a gap',
};

/** A clip is too short for its slot: says by how much and what can be done, before anything changes. */
export function RemedyDialog(): React.JSX.Element {
  const { pending, settle } = useHanging();
  return (
    <Dialog open={pending !== null} onClose={() => settle(null)} title="Too short for this slot">
      {pending && (
        <div className="space-y-3">
          <p>
            <b>{pending.name}</b> has {(pending.slot.length - pending.plan.short).toFixed(2)} s for a slot of{' '}
            {pending.slot.length.toFixed(2)} s: <b className="figures">{pending.plan.short.toFixed(2)} s</b> are missing.
          </p>
          <div className="grid gap-1.5">
            {pending.plan.remedies.map(({ remedy, missing, speed }) => (
              <Button key={remedy} className="justify-between!" onClick={() => settle(remedy)}>
                {NAMES[remedy]}
                <span className="figures text-[11.5px] text-soft">
                  {remedy === 'slow' && `${Math.round(speed * 100)} %`}
                  {missing > 0.005 && remedy !== 'hold' ? ` ${missing.toFixed(2)} s stay empty` : ''}
                </span>
              </Button>
            ))}
          </div>
          <div className="flex justify-end">
            <Button look="quiet" onClick={() => settle(null)}>
              Do not hang it
            </Button>
          </div>
        </div>
      )}
    </Dialog>
  );
}
