import { useId, useState } from 'react';

/** The width of the field for values of so many figures. */
const WIDTHS = { 2: 'w-11', 3: 'w-14', 5: 'w-16' } as const;

interface NumberFieldProps {
  /** its accessible name; left out where a label stands around it */
  readonly label?: string;
  /** null for none */
  readonly value: number | null;
  readonly from: number;
  readonly to: number;
  /** 1: whole numbers only */
  readonly step?: number;
  readonly figures?: keyof typeof WIDTHS;
  /** whether what is typed counts before the field is left */
  readonly atOnce?: boolean;
  readonly onChange: (value: number) => void;
  /** told when what is typed is no number that counts; without, the last one that did stays, and comes back when the field is left */
  readonly onNone?: () => void;
}

/**
 * A field for a number. What is typed counts as soon as it is one within its limits, or only when the field is left, where each
 * change is a step to undo. What lies outside is refused with a sentence, not made to fit.
 */
export function NumberField({
  label,
  value,
  from,
  to,
  step = 1,
  figures = 5,
  atOnce = true,
  onChange,
  onNone,
}: NumberFieldProps): React.JSX.Element {
  const [typed, setTyped] = useState<string | null>(null);
  const [refused, setRefused] = useState(false);
  const says = useId();
  const read = (text: string): number | null => {
    const number = step === 1 ? Math.round(Number(text)) : Number(text);
    return text !== '' && Number.isFinite(number) && number >= from && number <= to ? number : null;
  };
  const type = (text: string): void => {
    setTyped(text);
    const number = read(text);
    if (number !== null) setRefused(false);
    if (number === null) onNone?.();
    else if (atOnce && number === Number(text) && number !== value) onChange(number);
  };
  const leave = (): void => {
    if (typed === null) return;
    const number = read(typed);
    setRefused(number === null && typed !== '');
    // A number that is refused stays to be put right; an empty field that must have one gets its own back.
    if (number !== null || (typed === '' && !onNone)) setTyped(null);
    if (number !== null && number !== value) onChange(number);
  };
  return (
    <span className="relative inline-block">
      <input
        type="number"
        aria-label={label}
        aria-invalid={refused}
        aria-describedby={refused ? says : undefined}
        min={from}
        max={to}
        step={step}
        value={typed ?? value ?? ''}
        onChange={(e) => type(e.target.value)}
        onBlur={leave}
        onKeyDown={(e) => e.key === 'Enter' && leave()}
        className={`figures ${WIDTHS[figures]} rounded border bg-paper px-1 py-0.5 text-ink ${refused ? 'border-coral' : 'border-edge'}`}
      />
      {refused && (
        <span
          id={says}
          role="alert"
          className="absolute top-full right-0 z-20 mt-1 rounded border border-coral/50 bg-paper px-1.5 py-0.5 text-[11px] whitespace-nowrap text-coral-text shadow"
        >
          {from.toLocaleString('en')} to {to.toLocaleString('en')}
        </span>
      )}
    </span>
  );
}
