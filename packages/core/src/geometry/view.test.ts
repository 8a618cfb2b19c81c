import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { covering, framingScale, placeInView, showsEdge, viewBetween } from './view.ts';

const size = fc.record({ width: fc.integer({ min: 16, max: 6000 }), height: fc.integer({ min: 16, max: 6000 }) });
const view = fc.record({
  x: fc.double({ min: -1, max: 2, noNaN: true }),
  y: fc.double({ min: -1, max: 2, noNaN: true }),
  zoom: fc.double({ min: 0.2, max: 8, noNaN: true }),
  turn: fc.double({ min: -180, max: 180, noNaN: true }),
});
const SCREEN = { width: 1280, height: 720 };

describe('a view of a picture', () => {
  test('at a zoom of 1 fills the frame or shows all of it', () => {
    expect(framingScale({ width: 640, height: 720 }, SCREEN, 'fill')).toBe(2);
    expect(framingScale({ width: 640, height: 720 }, SCREEN, 'fit')).toBe(1);
    const place = placeInView({ x: 0.5, y: 0.25, zoom: 2, turn: 0 }, { width: 640, height: 720 }, SCREEN, 'fill');
    expect(place).toEqual({ x: -640, y: -360, width: 2560, height: 2880 });
  });
  test('that covers the frame shows no edge, however it was asked for', () => {
    fc.assert(
      fc.property(view, size, size, (v, picture, screen) => {
        const covered = covering(v, picture, screen);
        expect(showsEdge(covered, picture, screen)).toBe(false);
        // And what showed none is left as it was, but for what sums lose.
        if (!showsEdge(v, picture, screen)) expect(Math.abs(covered.zoom - v.zoom)).toBeLessThan(1e-3);
        expect(covered.zoom).toBeGreaterThanOrEqual(v.zoom);
      }),
    );
  });
  test('on the way between two that show no edge shows none either', () => {
    const upright = view.map((v) => ({ ...v, turn: 0 }));
    fc.assert(
      fc.property(upright, upright, size, size, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, picture, screen, part) => {
        const between = viewBetween(covering(a, picture, screen), covering(b, picture, screen), part);
        expect(showsEdge(between, picture, screen)).toBe(false);
      }),
    );
  });
});
