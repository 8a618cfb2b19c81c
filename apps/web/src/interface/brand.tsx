/** Two gusts and the name. */
export function Brand(): React.JSX.Element {
  return (
    <span className="inline-flex items-center gap-2 text-[17px] font-bold tracking-tight text-ink">
      <svg
        width="26"
        height="23"
        viewBox="0 -2.5 26 23"
        fill="none"
        stroke="var(--spruce)"
        strokeWidth="2.4"
        strokeLinecap="round"
        aria-hidden
      >
        <path d="M2 7h14a4 4 0 1 0-4-4" />
        <path d="M2 12h19a3.4 3.4 0 1 1-3.4 3.4" />
      </svg>
      bluster
    </span>
  );
}
