/** A label with its controls beside it. */
export function PanelRow({ label, children }: { label: string; children: React.ReactNode }): React.JSX.Element {
  return (
    <div className="flex items-center text-[12.5px]">
      <span className="w-[84px] shrink-0 text-[12px] text-soft">{label}</span>
      {children}
    </div>
  );
}
