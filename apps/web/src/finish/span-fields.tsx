import type { Between, Span } from '@bluster/core';
import { NumberField } from '../interface/number-field.tsx';
import { MomentField } from './moment-field.tsx';

const WHOLE: Span = { from: null, to: null, rise: 0, fall: 0 };

/** From when to when something is there, and over how many beats it comes and goes. */
export function SpanFields({
  name,
  span = WHOLE,
  onChange,
}: {
  name: string;
  span?: Span | undefined;
  onChange: (span: Between) => void;
}): React.JSX.Element {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-0.5 text-[12px]">
      <MomentField label="from" moment={span.from} none="start" onChange={(from) => onChange({ from })} />
      <MomentField label="to" moment={span.to} none="end" onChange={(to) => onChange({ to })} />
      {(['rise', 'fall'] as const).map((which) => (
        <label key={which} className="inline-flex items-center gap-1 text-soft">
          {which === 'rise' ? 'comes over' : 'goes over'}
          <NumberField
            label={`${name} ${which === 'rise' ? 'comes' : 'goes'} over, beats`}
            value={span[which]}
            from={0}
            to={64}
            step={0.25}
            figures={3}
            atOnce={false}
            onChange={(beats) => onChange({ [which]: beats })}
          />
          beats
        </label>
      ))}
    </div>
  );
}
