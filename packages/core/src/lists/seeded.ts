/** Numbers between 0 and 1 that follow from a seed (Park and Miller, "Random number generators", CACM 1988). */
export function seeded(seed: number): () => number {
  let state = (Math.abs(Math.floor(seed)) % 2147483646) + 1;
  const next = (): number => (state = (state * 16807) % 2147483647) / 2147483647;
  next();
  next();
  return next;
}

/** A shuffled copy by Fisher and Yates, the same for the same seed. */
export function shuffled<T>(list: readonly T[], seed: number): T[] {
  const random = seeded(seed);
  const copy = [...list];
  for (let i = copy.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [copy[i], copy[j]] = [copy[j]!, copy[i]!];
  }
  return copy;
}
