/** A colour, chosen freely. */
export function ColourField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (colour: string) => void;
}): React.JSX.Element {
  return (
    <input
      type="color"
      aria-label={label}
      title={label}
      className="h-6 w-8 rounded border border-edge bg-paper"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}
