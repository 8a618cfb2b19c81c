import { useState } from 'react';

/** The width of the field for values of so many figures. */
const WIDTHS = { 2: 'w-11', 3: 'w-14', 5: 'w-16' } as const;

/**
 * A field for a number. What is typed counts as soon as it is one within its limits, or only when the field is left, where
 * each change is a step to undo; when it is left, it is brought within them.
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
}: {
  /** its accessible name; left out where a label stands around it */
  label?: string;
  value: number;
  from: number;
  to: number;
  /** 1: whole numbers only */
  step?: number;
  figures?: keyof typeof WIDTHS;
  /** whether what is typed counts before the field is left */
  atOnce?: boolean;
  onChange: (value: number) => void;
}): React.JSX.Element {
  const [typed, setTyped] = useState<string | null>(null);
  const rounded = (text: string): number => (step === 1 ? Math.round(Number(text)) : Number(text));
  const type = (text: string): void => {
    setTyped(text);
    const number = Number(text);
    if (atOnce && text !== '' && number >= from && number <= to && rounded(text) === number && number !== value) onChange(number);
  };
  const leave = (): void => {
    if (typed === null) return;
    setTyped(null);
    const within = typed === '' ? value : Math.max(from, Math.min(to, rounded(typed)));
    if (Number.isFinite(within) && within !== value) onChange(within);
  };
  return (
    <input
      type="number"
      aria-label={label}
      min={from}
      max={to}
      step={step}
      value={typed ?? value}
      onChange={(e) => type(e.target.value)}
      onBlur={leave}
      onKeyDown={(e) => e.key === 'Enter' && leave()}
      className={`figures ${WIDTHS[figures]} rounded border border-edge bg-paper px-1 py-0.5 text-ink`}
    />
  );
}
