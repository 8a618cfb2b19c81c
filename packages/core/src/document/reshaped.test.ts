import { expect, test } from '@jest/globals';
import { carryOut } from '../commands/carry-out.ts';
import { askedFilm } from '../films/film-wish.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { framedAt } from '../picture/draw-list.ts';
import { scoreOf } from '../score/score.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import type { Montage, Shot } from './montage.ts';
import { isInShape, leastSides } from './reshaped.ts';

const filled = (): Montage =>
  carryOut(carryOut(sampleMontage(), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }), {
    do: 'fill',
    options: FILL_DEFAULTS,
  });
const UPRIGHT = { width: 720, height: 1280, rate: { num: 30, den: 1 } } as const;
const LEFT = { x: 0.2, y: 0.5, zoom: 1, turn: 0 };
const first = (m: Montage): Shot => scoreOf(m).slots[0]!.placed!.shot;

test.each([
  ['9:16', 1080, 1920, true],
  ['9:16', 606, 1080, true],
  ['4:3', 1280, 720, false],
  ['1:1', 720, 718, true],
] as const)('%s and a frame of %i by %i: alike is %s', (shape, width, height, alike) => {
  expect(isInShape(shape, { width, height })).toBe(alike);
});

test('a shape in least numbers', () => {
  expect(leastSides({ width: 1280, height: 720 })).toEqual([16, 9]);
  expect(leastSides({ width: 1366, height: 768 })).toEqual([683, 384]);
});

test('a shot framed for another shape stands so in films of that shape, and in no other', () => {
  const m = filled();
  const framed = carryOut(m, { do: 'setShapeView', ids: [first(m).id], shape: '9:16', stands: { framing: 'fill', view: LEFT } });
  const target = (montage: Montage, size?: { width: number; height: number }): number => {
    const film = askedFilm(montage, { preset: 'h264', ...(size ? { size } : {}) }).montage;
    return framedAt(film, scoreOf(film).slots[0]!, 0).target.x;
  };
  // Upright, 720 of 2275.6 pixels of a picture of 16:9 are seen; the fifth of it lies in the middle.
  expect(target(framed, UPRIGHT)).toBeCloseTo(360 - 0.2 * ((1280 * 1280) / 720), 6);
  expect(target(framed)).toBe(target(m));
  expect(target(framed, { width: 720, height: 720 })).toBe(target(m, { width: 720, height: 720 }));
  // Shots beside it stand as they did.
  expect(scoreOf(framed).slots[1]!.placed!.shot).toEqual(scoreOf(m).slots[1]!.placed!.shot);
});

test('a montage that goes over to that shape shows it so, and shows it as before when it comes back', () => {
  const m = filled();
  const { id } = first(m);
  const byHand = carryOut(m, { do: 'setView', ids: [id], view: { x: 0.6, y: 0.5, zoom: 1.5, turn: 0 } });
  const framed = carryOut(byHand, { do: 'setShapeView', ids: [id], shape: '9:16', stands: { framing: 'fit' } });
  const upright = carryOut(framed, { do: 'setShape', shape: UPRIGHT });
  expect(first(upright)).toMatchObject({ framing: 'fit' });
  expect(first(upright).view).toBeUndefined();
  const back = carryOut(upright, { do: 'setShape', shape: m.shape });
  expect(back).toEqual(framed);
});

test('for the montage’s own shape it is framed under Finish', () => {
  const m = filled();
  const ask = { do: 'setShapeView', ids: [first(m).id], shape: '16:9', stands: { framing: 'fit' } } as const;
  expect(() => carryOut(m, ask)).toThrow('own shape');
  const framed = carryOut(m, { ...ask, shape: '1:1' });
  expect(carryOut(framed, { ...ask, shape: '1:1', stands: null })).toEqual(m);
});
