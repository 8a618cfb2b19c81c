import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { JOIN_FADE_S, pieceLevel, playedPieces } from './joins.ts';

const pieces = [
  { from: 2, to: 10 },
  { from: 20, to: 28 },
  { from: 28, to: 30 },
];

test('a piece begins to sound before its start, under the end of the one before', () => {
  const [a, b, c] = playedPieces(pieces);
  expect(a).toEqual({ at: 0, from: 2, length: 8, fadeIn: 0, fadeOut: JOIN_FADE_S });
  expect(b!.at).toBeCloseTo(8 - JOIN_FADE_S, 9);
  expect(b!.from).toBeCloseTo(20 - JOIN_FADE_S, 9);
  expect(b!.fadeOut).toBe(0); // the third goes on where the second ends
  expect(c).toEqual({ at: 16, from: 28, length: 2, fadeIn: 0, fadeOut: 0 });
});

test('at every moment of a join the two powers add up to one', () => {
  const [a, b] = playedPieces(pieces);
  fc.assert(
    fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (part) => {
      const t = 8 - JOIN_FADE_S + part * JOIN_FADE_S;
      expect(pieceLevel(a!, t - a!.at) ** 2 + pieceLevel(b!, t - b!.at) ** 2).toBeCloseTo(1, 6);
    }),
  );
  expect(pieceLevel(b!, 4)).toBe(1);
});
