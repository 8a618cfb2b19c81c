import { ToggleGroup } from 'radix-ui';

interface ChipsProps<T extends string> {
  readonly label: string;
  readonly value: T | '';
  readonly options: readonly (readonly [T, React.ReactNode, string?])[];
  readonly onChoose: (value: T) => void;
}

/** One of many, each a chip of its own, on as many rows as it takes. */
export function Chips<T extends string>({ label, value, options, onChoose }: ChipsProps<T>): React.JSX.Element {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(v) => v && onChoose(v as T)}
      className="flex min-w-0 flex-wrap gap-1"
    >
      {options.map(([key, text, hint]) => (
        <ToggleGroup.Item
          key={key}
          value={key}
          title={hint}
          className="inline-flex items-center gap-1 rounded-full border border-edge bg-paper px-2.5 py-0.5 text-[12px] whitespace-nowrap hover:bg-cloth-2 data-[state=on]:border-spruce data-[state=on]:bg-spruce data-[state=on]:text-on-spruce"
        >
          {text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
