/** What a view looks like while it is on its way. */
export function LoadingView({ label }: { label: string }): React.JSX.Element {
  return (
    <main className="grid h-full grid-cols-[35.3%_1fr]" aria-busy="true" aria-label={label}>
      <div className="h-[48%] animate-pulse bg-cloth-2" />
      <div className="space-y-6 p-6">
        {[0, 1, 2, 3].map((i) => (
          <div key={i} className="h-24 animate-pulse rounded bg-cloth-2" />
        ))}
      </div>
    </main>
  );
}
