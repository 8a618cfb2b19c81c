import { MapPin, X } from 'lucide-react';
import type { At, Moment } from '@bluster/core';
import { Button } from '../interface/button.tsx';
import { useMontage } from '../document/editor.ts';
import { atPlayhead, momentWords } from './moment-at-playhead.ts';

interface MomentFieldProps {
  readonly label: string;
  readonly moment: Moment | null;
  /** what it is when no moment is chosen, such as "start" */
  readonly none: string;
  readonly onChange: (at: At | null) => void;
  /** it is always there: it cannot be given up */
  readonly lasting?: boolean;
}

/** A moment of the song: taken from the playhead, or given up again for the start or the end. */
export function MomentField({ label, moment, none, onChange, lasting = false }: MomentFieldProps): React.JSX.Element {
  const montage = useMontage();
  return (
    <span className="inline-flex items-center gap-1 text-[12px]" role="group" aria-label={label || 'Start'}>
      {label && <span className="text-soft">{label}</span>}
      <span className={moment ? 'figures' : ''}>{moment ? momentWords(montage, moment) : none}</span>
      <Button
        look="quiet"
        tight
        aria-label={label ? `${label}: the playhead` : 'from the playhead'}
        hint="The mark at the playhead"
        disabled={!montage.song}
        onClick={() => {
          const at = atPlayhead();
          if (at) onChange(at);
        }}
      >
        <MapPin size={13} />
      </Button>
      {moment && !lasting && (
        <Button look="quiet" tight aria-label={`${label}: ${none}`} hint={`The ${none} again`} onClick={() => onChange(null)}>
          <X size={12} />
        </Button>
      )}
    </span>
  );
}
