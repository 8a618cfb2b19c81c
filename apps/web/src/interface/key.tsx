/** A key of the keyboard. */
export function Key({ children }: { children: React.ReactNode }): React.JSX.Element {
  return (
    <kbd className="figures inline-block rounded border border-b-2 border-edge bg-paper px-1 text-[10.5px] leading-4 text-ink">
      {children}
    </kbd>
  );
}
