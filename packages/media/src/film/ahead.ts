/**
 * What a source gives, made while what came before it is still being used: so many at the most wait.
 * @throws what the source throws, in its turn
 */
export async function* ahead<T>(source: AsyncGenerator<T>, most: number): AsyncGenerator<T> {
  const waiting: Promise<IteratorResult<T, void>>[] = [];
  const ask = (): void => {
    const next = source.next();
    // It is told to whoever takes it.
    next.catch(() => undefined);
    waiting.push(next);
  };
  try {
    while (waiting.length < most) ask();
    for (;;) {
      const { done, value } = await waiting.shift()!;
      if (done) return;
      ask();
      yield value;
    }
  } finally {
    await source.return(undefined);
  }
}
