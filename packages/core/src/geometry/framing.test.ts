import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { frame } from './framing.ts';

const screen = { width: 1280, height: 720 };

test('fill crops an upright clip top and bottom', () => {
  expect(frame(720, 1280, screen, 'fill')).toEqual({
    source: { x: 0, y: 436, width: 720, height: 406 },
    target: { x: 0, y: 0, width: 1280, height: 720 },
  });
});

test('the focus stays in the picture, as near the middle as the edges allow', () => {
  const { source } = frame(720, 1280, screen, 'fill', { x: 0.5, y: 0.25 });
  expect(source).toEqual({ x: 0, y: 116, width: 720, height: 406 });
  expect(frame(720, 1280, screen, 'fill', { x: 0.5, y: 0 }).source.y).toBe(0);
  expect(frame(720, 1280, screen, 'fill', { x: 0.5, y: 1 }).source.y).toBe(874);
});

test('fit shows all of it, in the middle', () => {
  expect(frame(720, 1280, screen, 'fit')).toEqual({
    source: { x: 0, y: 0, width: 720, height: 1280 },
    target: { x: 436, y: 0, width: 406, height: 720 },
  });
});

test('a clip of the same shape is neither cropped nor bordered', () => {
  for (const framing of ['fill', 'fit'] as const)
    expect(frame(1920, 1080, screen, framing)).toEqual({
      source: { x: 0, y: 0, width: 1920, height: 1080 },
      target: { x: 0, y: 0, width: 1280, height: 720 },
    });
});

test('rectangles stay inside and keep the shape to a pixel or two', () => {
  const side = fc.integer({ min: 32, max: 8000 });
  fc.assert(
    fc.property(side, side, fc.constantFrom('fill' as const, 'fit' as const), (width, height, framing) => {
      const { source, target } = frame(width, height, screen, framing);
      expect(source.x >= 0 && source.y >= 0 && source.x + source.width <= width && source.y + source.height <= height).toBe(true);
      expect(target.x >= 0 && target.y >= 0 && target.x + target.width <= screen.width && target.y + target.height <= screen.height).toBe(
        true,
      );
      if (source.width > 200 && source.height > 200 && target.width > 200 && target.height > 200)
        expect(Math.abs(source.width / source.height / (target.width / target.height) - 1)).toBeLessThan(0.02);
    }),
  );
});
