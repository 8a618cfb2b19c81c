import { useEffect, useState } from 'react';
import { SETTLE_DEFAULTS, SPEED_LIMITS, type Montage, type SettleOptions, type SettlePlan } from '@bluster/core';
import { Button } from '../../interface/button.tsx';
import { Choice } from '../../interface/choice.tsx';
import { NumberField } from '../../interface/number-field.tsx';
import { useEditor } from '../../document/editor.ts';
import { settlePlan } from '../planning/planning.ts';
import { SettledCuts } from './settled-cuts.tsx';

const percent = (speed: number): number => Math.round(100 * speed);

type Found = { readonly montage: Montage; readonly options: SettleOptions } & (
  | { readonly plan: SettlePlan }
  | { readonly problem: string }
);

/** The cuts that lie on no mark, moved onto marks all together: how, within which limits, and what comes of it. */
export function Settle({ montage, free, onDone }: { montage: Montage; free: number; onDone: () => void }): React.JSX.Element {
  const [options, setOptions] = useState<SettleOptions>(SETTLE_DEFAULTS);
  const [found, setFound] = useState<Found | null>(null);
  // A plan holds only for what it was made of; until the new one is there, the old one is still to be seen.
  const current = found?.montage === montage && found.options === options;
  const set = (to: Partial<SettleOptions>): void => setOptions({ ...options, ...to });
  useEffect(() => {
    let wanted = true;
    settlePlan(montage, options)
      .then((plan) => wanted && setFound({ montage, options, plan }))
      .catch((problem: Error) => wanted && setFound({ montage, options, problem: problem.message }));
    return () => {
      wanted = false;
    };
  }, [montage, options]);
  const take = (): void => {
    if (found && 'plan' in found && useEditor.getState().run({ do: 'takeSettle', plan: found.plan, options })) onDone();
  };
  return (
    <section className="space-y-2 border-t border-edge pt-3" aria-label="Settle">
      <p>
        <b className="figures">{free}</b> {free === 1 ? 'cut lies' : 'cuts lie'} on no mark. Settle them by
      </p>
      <div className="flex flex-wrap items-center gap-2">
        <Choice
          narrow
          label="How"
          value={options.way}
          options={[
            ['roll', 'rolling'],
            ['ripple', 'rippling'],
            ['retime', 'retiming'],
          ]}
          onChoose={(way) => set({ way })}
        />
        <Choice
          narrow
          label="Onto"
          value={options.onto}
          options={[
            ['bars', 'bars'],
            ['beats', 'beats'],
            ['any', 'any mark'],
          ]}
          onChoose={(onto) => set({ onto })}
        />
        {options.way === 'retime' && (
          <Choice
            narrow
            label="Speed goes over"
            value={options.ease}
            options={[
              ['hard', 'hard'],
              ['eased', 'eased'],
            ]}
            onChoose={(ease) => set({ ease })}
          />
        )}
      </div>
      <div className="flex items-center gap-4">
        <Limit label="shots of at least" unit="s">
          <NumberField value={options.leastShot} from={0} to={60} step={0.1} figures={3} onChange={(leastShot) => set({ leastShot })} />
        </Limit>
        <span className="flex items-center gap-1.5">
          <Limit label="speed" unit="%">
            <NumberField
              value={percent(options.slowest)}
              from={percent(SPEED_LIMITS.slowest)}
              to={100}
              figures={3}
              onChange={(v) => set({ slowest: v / 100 })}
            />
          </Limit>
          <Limit label="to" unit="%">
            <NumberField
              value={percent(options.fastest)}
              from={100}
              to={percent(SPEED_LIMITS.fastest)}
              figures={3}
              onChange={(v) => set({ fastest: v / 100 })}
            />
          </Limit>
        </span>
      </div>
      <p className="text-[11.5px] text-soft">
        {options.way === 'roll' && 'Pictures stay in their time, the length stays; a shot without handles is slowed a little.'}
        {options.way === 'ripple' && 'Each shot is trimmed to a mark, from left to right, and the rest follows.'}
        {options.way === 'retime' && 'Nothing is lost: each shot is run faster or slower until its cut lies on a mark.'}
      </p>
      {found && 'problem' in found && (
        <p role="alert" className="text-gold-text">
          {found.problem}
        </p>
      )}
      {found && 'plan' in found && (
        <SettledCuts plan={found.plan} montage={montage} options={options} onChange={(choices) => set({ choices })} />
      )}
      <div className="flex justify-end gap-2">
        <Button look="quiet" onClick={onDone}>
          Leave them
        </Button>
        <Button look="main" disabled={!current || 'problem' in found} onClick={take}>
          Settle {found && 'plan' in found ? `${found.plan.settled} cuts` : ''}
        </Button>
      </div>
    </section>
  );
}

function Limit({ label, unit, children }: { label: string; unit: string; children: React.ReactNode }): React.JSX.Element {
  return (
    <label className="flex items-center gap-1 text-soft">
      {label}
      {children}
      {unit}
    </label>
  );
}
