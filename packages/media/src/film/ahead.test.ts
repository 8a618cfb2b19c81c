import { expect, test } from '@jest/globals';
import { ahead } from './ahead.ts';

/** Counts, and says how far it has come and whether it was closed. */
function counter(to: number, failing = Infinity): { seen: { made: number; closed: boolean }; source: AsyncGenerator<number> } {
  const seen = { made: 0, closed: false };
  async function* count(): AsyncGenerator<number> {
    try {
      for (let n = 0; n < to; n++) {
        await Promise.resolve();
        if (n === failing) throw new Error(`no ${n}`);
        seen.made++;
        yield n;
      }
    } finally {
      seen.closed = true;
    }
  }
  return { seen, source: count() };
}

test('gives everything in order, and makes so many more at the most than were taken', async () => {
  const { seen, source } = counter(20);
  const got: number[] = [];
  for await (const n of ahead(source, 4)) {
    got.push(n);
    await new Promise((resolve) => setImmediate(resolve));
    expect(seen.made).toBe(Math.min(20, got.length + 4));
  }
  expect(got).toEqual(Array.from({ length: 20 }, (_, n) => n));
});

test('what goes wrong is told in its turn, after what was made before it', async () => {
  const { source } = counter(20, 3);
  const got: number[] = [];
  const all = async (): Promise<void> => {
    for await (const n of ahead(source, 4)) got.push(n);
  };
  await expect(all()).rejects.toThrow('no 3');
  expect(got).toEqual([0, 1, 2]);
});

test('whoever stops closes the source', async () => {
  const { seen, source } = counter(20);
  for await (const n of ahead(source, 4)) if (n === 2) break;
  expect(seen.closed).toBe(true);
  expect(seen.made).toBeLessThan(20);
});
