/** How far something is, 0 to 1. */
export function Progress({ part, label }: { part: number; label: string }): React.JSX.Element {
  const percent = Math.round(part * 100);
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuenow={percent}
      aria-valuemin={0}
      aria-valuemax={100}
      className="h-1.5 w-full overflow-hidden rounded-full bg-cloth-2"
    >
      <div className="h-full rounded-full bg-spruce transition-[width]" style={{ width: `${percent}%` }} />
    </div>
  );
}
