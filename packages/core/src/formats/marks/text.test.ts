import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { readBeatText, writeBeatText } from './text.ts';

test('what is written reads back to the millisecond', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 3_600_000 }), { minLength: 1 }), (ms) => {
      const times = [...ms].sort((a, b) => a - b).map((v) => v / 1000);
      expect(readBeatText(writeBeatText(times))).toEqual(times);
    }),
  );
});
test('comments, empty lines, a byte order mark and further columns do not matter', () => {
  expect(readBeatText('\uFEFF# beats\r\n\r\n1.5\tbar\n0.5, 2\n')).toEqual([0.5, 1.5]);
});
test.each([
  ['one\ntwo', /Line 1/],
  ['0.5\n-1', /Line 2/],
  ['', /no times/],
])('%p is refused, naming the line', (text, sentence) => expect(() => readBeatText(text)).toThrow(sentence));
