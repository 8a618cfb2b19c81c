/** A little wooden clothes peg. */
export function PegShape({
  ghost = false,
  chosen = false,
  free = false,
  small = false,
}: {
  ghost?: boolean;
  chosen?: boolean;
  free?: boolean;
  small?: boolean;
}): React.JSX.Element {
  return (
    <svg width={small ? 9 : 12} height={small ? 13 : 17} viewBox="0 0 12 17" aria-hidden opacity={ghost ? 0.45 : 1}>
      <path
        d="M2.2 .8h7.6v9.4l-1.8 6H4l-1.8-6z"
        fill={free ? '#d8b98a' : '#b98a4e'}
        stroke={chosen ? 'var(--spruce)' : '#7d5a2b'}
        strokeWidth={chosen ? 1.8 : 0.9}
        strokeDasharray={free ? '2 1.4' : undefined}
      />
      <path d="M2.4 6.6h7.2" stroke="#7d5a2b" strokeWidth="1.1" />
    </svg>
  );
}
