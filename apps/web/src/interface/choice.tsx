import { ToggleGroup } from 'radix-ui';

/** One of a few, side by side. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChoose,
  narrow = false,
}: {
  label: string;
  value: T | '';
  options: readonly (readonly [T, string])[];
  onChoose: (value: T) => void;
  /** for many short options */
  narrow?: boolean;
}): React.JSX.Element {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(v) => v && onChoose(v as T)}
      className="inline-flex shrink-0 overflow-hidden rounded-md border border-edge bg-paper"
    >
      {options.map(([key, text]) => (
        <ToggleGroup.Item
          key={key}
          value={key}
          className={`${narrow ? 'px-1.5' : 'px-2.5'} py-1 text-[12px] whitespace-nowrap hover:bg-cloth-2 data-[state=on]:bg-spruce data-[state=on]:text-on-spruce`}
        >
          {text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
