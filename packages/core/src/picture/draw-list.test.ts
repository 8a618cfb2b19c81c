import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { scoreOf } from '../score/score.ts';
import { drawListAt, GROUND, picturesIn } from './draw-list.ts';
import { carryOut } from '../commands/carry-out.ts';

const filled = (
  clips = [sampleClip('a', 5), sampleClip('wide', 5, { width: 1920, height: 800 }), samplePhoto('p')],
): ReturnType<typeof sampleMontage> =>
  carryOut(carryOut(sampleMontage(12, clips), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }), {
    do: 'fill',
    options: FILL_DEFAULTS,
  });

describe('what is on the screen', () => {
  test('is the clip of the slot, at the frame that its retime says', () => {
    const montage = filled();
    expect(picturesIn(drawListAt(montage, 0))).toMatchObject([{ assetId: 'a', kind: 'clip', frame: 0 }]);
    expect(picturesIn(drawListAt(montage, 59))).toMatchObject([{ assetId: 'a', frame: 59 }]);
    expect(picturesIn(drawListAt(montage, 60))).toMatchObject([{ assetId: 'wide', frame: 0 }]);
    const slow = carryOut(montage, { do: 'setRate', id: scoreOf(montage).slots[0]!.placed!.shot.id, rate: 0.5 });
    expect(picturesIn(drawListAt(slow, 59))[0]!.frame).toBe(29);
  });
  test('a photo stands still', () => {
    const montage = filled();
    expect(new Set([120, 150, 179].map((n) => picturesIn(drawListAt(montage, n))[0]!.frame))).toEqual(new Set([0]));
  });
  test('a gap is ground, and so is what lies after the end', () => {
    const montage = filled();
    const gap = carryOut(montage, { do: 'takeDownShot', id: scoreOf(montage).slots[1]!.placed!.shot.id });
    expect(drawListAt(gap, 80)).toMatchObject({ width: 1280, height: 720, ground: GROUND, layers: [], camera: null, veils: [], bars: [] });
    expect(picturesIn(drawListAt(montage, 100_000))).toEqual([]);
  });
  test('a clip that ran out leaves ground, or holds its last frame', () => {
    const montage = filled([sampleClip('short', 0.5)]);
    const { shot } = scoreOf(montage).slots[0]!.placed!;
    const plain = carryOut(montage, { do: 'setRate', id: shot.id, rate: 1 });
    expect(picturesIn(drawListAt(plain, 14))).toHaveLength(1);
    expect(picturesIn(drawListAt(plain, 15))).toEqual([]);
    const held = carryOut(plain, { do: 'setWhenShort', ids: [shot.id], whenShort: 'hold' });
    expect(picturesIn(drawListAt(held, 15))).toMatchObject([{ frame: 14 }]);
    expect(picturesIn(drawListAt(held, 59))).toMatchObject([{ frame: 14 }]);
  });
  test('fill leaves no ground anywhere; fit shows the whole picture', () => {
    const montage = filled();
    const { shot } = scoreOf(montage).slots[1]!.placed!;
    expect(picturesIn(drawListAt(montage, 70))[0]!.target).toEqual({ x: 0, y: 0, width: 1280, height: 720 });
    const fitted = carryOut(montage, { do: 'setFraming', ids: [shot.id], framing: 'fit' });
    expect(picturesIn(drawListAt(fitted, 70))[0]!.source).toEqual({ x: 0, y: 0, width: 1920, height: 800 });
  });
  test('at every frame of any montage the frame shown is one that the clip has', () => {
    const clip = fc.record({ seconds: fc.double({ min: 0.2, max: 6, noNaN: true }), fps: fc.constantFrom(24, 25, 30, 60) });
    fc.assert(
      fc.property(fc.array(clip, { minLength: 1, maxLength: 5 }), fc.integer({ min: 0, max: 359 }), (clips, frame) => {
        const montage = filled(clips.map(({ seconds, fps }, i) => sampleClip(`c${i}`, seconds, { rate: { num: fps, den: 1 } })));
        for (const item of picturesIn(drawListAt(montage, frame))) {
          const { frames } = montage.footage.find((f) => f.assetId === item.assetId)!;
          expect(item.frame).toBeGreaterThanOrEqual(0);
          expect(item.frame).toBeLessThan(frames);
        }
      }),
    );
  });
});
