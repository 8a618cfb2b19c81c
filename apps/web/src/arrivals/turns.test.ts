import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { Turns } from './turns.ts';

const jobs = (...keys: number[]): { key: number }[] => keys.map((key) => ({ key }));

test('two are under way at once, in the order in which they came', () => {
  const begun: number[] = [];
  const turns = new Turns(2, ({ key }) => begun.push(key));
  turns.add(jobs(1, 2, 3));
  turns.add(jobs(4));
  expect(begun).toEqual([1, 2]);
  turns.ended(2);
  expect(begun).toEqual([1, 2, 3]);
  expect(turns.withdraw(4)).toBe(true);
  expect(turns.withdraw(1)).toBe(false);
  turns.ended(1);
  turns.ended(3);
  expect(begun).toEqual([1, 2, 3]);
});

test('whatever ends or is taken back, each is begun once, never too many at a time, and none is forgotten', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(30)), fc.integer({ min: 1, max: 4 }), (ends, atOnce) => {
      const begun: number[] = [];
      const over = new Set<number>();
      const turns = new Turns(atOnce, ({ key }) => begun.push(key));
      turns.add(jobs(...Array.from({ length: 12 }, (_, i) => i)));
      for (const key of ends) {
        if (turns.isUnderWay(key)) {
          turns.ended(key);
          over.add(key);
        } else if (turns.withdraw(key)) over.add(key);
        expect(begun.filter((k) => turns.isUnderWay(k)).length).toBeLessThanOrEqual(atOnce);
      }
      for (let key = begun.find((k) => turns.isUnderWay(k)); key !== undefined; key = begun.find((k) => turns.isUnderWay(k))) {
        turns.ended(key);
        over.add(key);
      }
      expect(new Set(begun).size).toBe(begun.length);
      expect(over.size).toBe(12);
    }),
  );
});
