import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { FrameRate } from '../time/rate.ts';
import type { FootageItem } from '../document/montage.ts';
import { proposeShape } from './propose-shape.ts';

type Sized = Pick<FootageItem, 'kind' | 'width' | 'height' | 'rate' | 'frames'>;

const clip = (width: number, height: number, fps = 30, seconds = 8, rate: FrameRate = { num: fps, den: 1 }): Sized => ({
  kind: 'clip',
  width,
  height,
  rate,
  frames: Math.round((seconds * rate.num) / rate.den),
});
const photo = (width: number, height: number): Sized => ({ kind: 'photo', width, height, rate: { num: 1, den: 1 }, frames: 1 });
const times = <T>(n: number, item: T): T[] => Array.from({ length: n }, () => item);

test('one odd clip that came first does not make the film', () => {
  const footage = [clip(640, 480), ...times(8, clip(768, 576, 10)), ...times(13, photo(2560, 1600))];
  expect(proposeShape(footage)).toEqual({ width: 768, height: 576, rate: { num: 30, den: 1 } });
});
test('mostly upright footage makes an upright film, of the size that most upright clips have', () => {
  const footage = [clip(1920, 1080), clip(1920, 1080), ...times(3, clip(1080, 1920, 60)), clip(720, 1280), photo(3000, 4000)];
  expect(proposeShape(footage)).toEqual({ width: 1080, height: 1920, rate: { num: 60, den: 1 } });
});
test('photos alone make a film of a usual size', () => {
  expect(proposeShape(times(4, photo(4032, 3024)))).toEqual({ width: 1920, height: 1080, rate: { num: 30, den: 1 } });
  expect(proposeShape(times(4, photo(3024, 4032)))).toMatchObject({ width: 1080, height: 1920 });
  expect(proposeShape(times(4, photo(2000, 2000)))).toMatchObject({ width: 1080, height: 1080 });
});
test('of equally many, the longer footage counts; slow motion counts by its half', () => {
  expect(proposeShape([clip(1280, 720, 25, 3), clip(1920, 1080, 25, 40)])).toMatchObject({ width: 1920 });
  expect(proposeShape([clip(1920, 1080, 120)])!.rate).toEqual({ num: 60, den: 1 });
  expect(proposeShape([clip(1920, 1080, 0, 9, { num: 120000, den: 1001 })])!.rate).toEqual({ num: 60000, den: 1001 });
});
test('of equally many, a small clip makes the film small only where there is very much of it', () => {
  expect(proposeShape([clip(320, 240, 25, 20), clip(640, 480, 25, 8)])).toMatchObject({ width: 640, height: 480 });
  expect(proposeShape([clip(3840, 2160, 25, 3), clip(1920, 1080, 25, 40)])).toMatchObject({ width: 1920, height: 1080 });
  expect(proposeShape([...times(2, clip(320, 240)), clip(1920, 1440)])).toMatchObject({ width: 320 });
});
test('no footage proposes nothing', () => {
  expect(proposeShape([])).toBeNull();
});
test('whatever it is given, a film can be made of it: even sides between 16 and 3840, a rate of films', () => {
  const side = fc.integer({ min: 2, max: 8192 });
  const any = fc.oneof(
    fc.tuple(side, side, fc.integer({ min: 1, max: 240 })).map(([w, h, fps]) => clip(w, h, fps)),
    fc.tuple(side, side).map(([w, h]) => photo(w, h)),
  );
  fc.assert(
    fc.property(fc.array(any, { minLength: 1, maxLength: 20 }), (footage) => {
      const { width, height, rate } = proposeShape(footage)!;
      for (const s of [width, height]) expect(s % 2 === 0 && s >= 16 && s <= 3840).toBe(true);
      expect(rate.num / rate.den).toBeGreaterThanOrEqual(23.9);
      expect(rate.num / rate.den).toBeLessThanOrEqual(60);
    }),
  );
});
