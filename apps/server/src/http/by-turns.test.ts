import { expect, test } from '@jest/globals';
import type { NextFunction, Request, Response } from 'express';
import { byTurns } from './by-turns.ts';

/** Has requests come at one moment, each of which says its number in a list. @param gone the number of one who does not wait */
function comeTogether(said: unknown[], count: number, also: (n: number) => void = () => undefined, gone?: number): Promise<void> {
  const handle = byTurns();
  return new Promise((done) => {
    for (let n = 1; n <= count; n++)
      handle(
        { socket: { destroyed: n === gone } } as Request,
        {} as Response,
        (() => {
          said.push(n);
          also(n);
          if (n === count) done();
        }) as NextFunction,
      );
  });
}

test('requests that come together begin in their order', async () => {
  const said: unknown[] = [];
  await comeTogether(said, 6);
  expect(said).toEqual([1, 2, 3, 4, 5, 6]);
});

test('whatever becomes due meanwhile is done before the last of them has begun', async () => {
  const said: unknown[] = [];
  await comeTogether(said, 50, (n) => void (n === 1 && setImmediate(() => said.push('due'))));
  expect(said).toHaveLength(51);
  expect(said.indexOf('due')).toBeLessThan(4);
});

test('what a request promised itself is done before the next one begins', async () => {
  const said: unknown[] = [];
  await comeTogether(said, 3, (n) => void Promise.resolve().then(() => said.push(`${n} goes on`)));
  expect(said.slice(0, 5)).toEqual([1, '1 goes on', 2, '2 goes on', 3]);
});

test('who has gone meanwhile is not begun with, and the others are', async () => {
  const said: unknown[] = [];
  await comeTogether(said, 5, undefined, 2);
  expect(said).toEqual([1, 3, 4, 5]);
});
