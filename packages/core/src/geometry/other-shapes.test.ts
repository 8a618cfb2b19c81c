import { expect, test } from '@jest/globals';
import { otherShapes } from './other-shapes.ts';
import { sampleClip, samplePhoto } from '../testing/sample-montage.ts';

const shape = { width: 1280, height: 720, rate: { num: 30, den: 1 } };

test("footage of the montage's own shape and rate is not listed", () => {
  expect(otherShapes([sampleClip('a', 5), sampleClip('large', 5, { width: 3840, height: 2160 })], shape)).toEqual([]);
});
test('an upright clip loses its top and foot, or leaves the sides empty', () => {
  const [upright] = otherShapes([sampleClip('up', 5, { width: 720, height: 1280 })], shape);
  expect(upright!.cropped).toBeCloseTo(1 - 405 / 1280, 2);
  expect(upright!.empty).toBeCloseTo(1 - 405 / 1280, 2);
  expect(upright!.enlarged).toBeCloseTo(1280 / 720, 2);
  expect(upright!.framesEach).toBeNull();
});
test('a small clip is enlarged, whole where it is fitted', () => {
  const [small] = otherShapes([sampleClip('small', 5, { width: 640, height: 360 })], shape);
  expect(small).toMatchObject({ cropped: 0, empty: 0, enlarged: 2 });
  const [fitted] = otherShapes([sampleClip('up', 5, { width: 720, height: 1280, framing: 'fit' })], shape);
  expect(fitted!.enlarged).toBeCloseTo(720 / 1280, 2);
});
test('another rate is told by frames each; photos have none', () => {
  const [fast, photo] = otherShapes([sampleClip('fast', 5, { rate: { num: 60, den: 1 } }), samplePhoto('p')], shape);
  expect(fast!.framesEach).toBe(2);
  expect(photo!.framesEach).toBeNull();
  expect(otherShapes([sampleClip('ntsc', 5, { rate: { num: 30000, den: 1001 } })], shape)[0]!.framesEach).toBeCloseTo(0.999, 3);
});
