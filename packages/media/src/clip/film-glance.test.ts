import { expect, test } from '@jest/globals';
import { framesOf, guessedMovement, packetsOf, type Packet } from './film-glance.ts';

const rate = { num: 25, den: 1 };

test('packets are read as they are listed, and those that are thrown away do not count', () => {
  expect(packetsOf('0.000000,900,K__\n0.080000,30,___\n0.040000,20,_D_\nN/A,10,___\n\n')).toEqual([
    { time: 0, bytes: 900, key: true },
    { time: 0.08, bytes: 30, key: false },
  ]);
});

test('frames are counted where they come at a constant rate, in whatever order', () => {
  const at = (times: readonly number[]): Packet[] => times.map((time) => ({ time, bytes: 1, key: false }));
  expect(framesOf(at([1, 1.12, 1.04, 1.08]), rate)).toBe(4);
  // Containers that count in milliseconds are a little off.
  expect(framesOf(at([0, 0.033, 0.067, 0.1]), { num: 30, den: 1 })).toBe(4);
  expect(framesOf(at([0, 0.04, 0.12]), rate)).toBeNull();
  expect(framesOf([], rate)).toBeNull();
});

test('the more pictures cost beside key frames, the more is guessed to move', () => {
  const film = (bytes: number): Packet[] => [
    { time: 0, bytes: 1000, key: true },
    { time: 0.04, bytes, key: false },
    { time: 0.08, bytes, key: false },
  ];
  expect(guessedMovement(film(30))).toBeCloseTo(0.05, 9);
  expect(guessedMovement(film(300))).toBeCloseTo(0.5, 9);
  expect(guessedMovement(film(2000))).toBe(1);
  expect(guessedMovement(film(30).slice(0, 1))).toBe(0);
});
