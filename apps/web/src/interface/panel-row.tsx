interface PanelRowProps {
  readonly label: string;
  /** for a label that stands beside other rows, not below them */
  readonly narrow?: boolean;
  readonly children: React.ReactNode;
}

/** A label with its controls beside it. */
export function PanelRow({ label, narrow = false, children }: PanelRowProps): React.JSX.Element {
  return (
    <div className="flex items-center text-[12.5px]">
      <span className={`${narrow ? 'pr-2' : 'w-[84px]'} shrink-0 text-[12px] text-soft`}>{label}</span>
      <span className="flex min-w-0 flex-1 flex-wrap items-center gap-y-1">{children}</span>
    </div>
  );
}
