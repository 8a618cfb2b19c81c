import { expect, test } from '@jest/globals';
import type { Mark } from '@bluster/core';
import { markUnder, type LaidLine } from './mark-under.ts';

const mark = (id: string, kind: Mark['kind'], time: number): Mark => ({ id, kind, time, origin: 'hand' });
const laid: LaidLine = {
  line: { index: 0, from: 0, to: 10, span: 10, bar: 1 },
  pieces: [{ from: 0, to: 10 }],
  width: 1000,
  height: 60,
};
const marks = [mark('a', 'bar', 1), mark('b', 'beat', 1.08), mark('c', 'accent', 1.04), mark('d', 'drop', 5)];
const under = (x: number, y: number): string | undefined => markUnder(marks, laid, x, y)?.id;

test('the nearest mark within reach is taken hold of', () => {
  expect([under(100, 30), under(103, 30), under(105, 30), under(500, 30)]).toEqual(['a', 'a', 'b', 'd']);
  expect([under(300, 30), under(506, 30)]).toEqual([undefined, undefined]);
});

test('accents are taken below the sound, all others in it', () => {
  expect(under(104, 66)).toBe('c');
  expect(under(100, 66)).toBe('c');
  expect(under(500, 66)).toBeUndefined();
});

test('a mark that is cut out of the song cannot be taken hold of', () => {
  const cut = { ...laid, pieces: [{ from: 0, to: 3 }] };
  expect(markUnder(marks, cut, 500, 30)).toBeNull();
});
