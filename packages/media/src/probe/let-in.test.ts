import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
  FILL_DEFAULTS,
  UNDESCRIBED,
  carryOut,
  drawListAt,
  picturesIn,
  emptyMontage,
  readMontage,
  scoreOf,
  syncReport,
  type Montage,
} from '@bluster/core';
import { planStrip } from '../clip/filmstrip.ts';
import { fitWithin } from '../clip/picture-size.ts';
import { filmPlan } from '../film/picture-runs.ts';
import { countFrames, frameOnScreen, squarePixels } from './frame-filters.ts';
import { UnusableMediaError, mediaOf, type Probed } from './probe.ts';

/** Whole numbers small, usual, at the limits and absurd. */
const size = fc.oneof(fc.integer({ min: 1, max: 64 }), fc.integer({ min: 65, max: 8192 }), fc.integer({ min: 8193, max: 1_000_000 }));
const ratio = (by: string): fc.Arbitrary<string> =>
  fc.oneof(
    fc.constantFrom(`1${by}1`, `0${by}1`, `1${by}0`, `0${by}0`, 'N/A', '', `4${by}3`, `30000${by}1001`, `240000${by}1`, `1${by}100000`),
    fc.tuple(fc.nat(1_000_000), fc.nat(1_000_000)).map(([a, b]) => `${a}${by}${b}`),
  );
const seconds = fc.oneof(
  fc.constantFrom('N/A', '', '-5', '0', '1e9', 'inf', '0.000001'),
  fc.double({ min: 0, max: 21_600, noNaN: true }).map(String),
);
const picture = fc.record(
  {
    codec_type: fc.constant('video'),
    codec_name: fc.constantFrom('h264', 'mjpeg', 'gif', 'qtrle'),
    width: size,
    height: size,
    avg_frame_rate: ratio('/'),
    r_frame_rate: ratio('/'),
    sample_aspect_ratio: ratio(':'),
    color_space: fc.constantFrom('bt709', 'bt470bg', 'bt2020nc', 'unknown'),
    color_range: fc.constantFrom('pc', 'tv'),
    color_transfer: fc.constantFrom('smpte2084', 'arib-std-b67', 'bt709'),
    field_order: fc.constantFrom('progressive', 'tt', 'bb'),
    duration: seconds,
    start_time: seconds,
    side_data_list: fc.array(fc.record({ rotation: fc.constantFrom(0, 90, -90, 180, 45, 270) }), { maxLength: 1 }),
  },
  { requiredKeys: ['codec_type', 'width', 'height'] },
);
const sound = fc.record({ codec_type: fc.constant('audio'), sample_rate: fc.constantFrom('44100', '8000', '0', 'N/A'), duration: seconds });
const found: fc.Arbitrary<Probed> = fc.record(
  {
    streams: fc.array(fc.oneof({ weight: 3, arbitrary: picture }, sound), { minLength: 1, maxLength: 3 }),
    format: fc.record({ format_name: fc.constantFrom('mov,mp4', 'matroska,webm', 'mpegts'), duration: seconds }, { requiredKeys: [] }),
  },
  { requiredKeys: ['streams'] },
);

const SHAPES = [
  { width: 1280, height: 720 },
  { width: 720, height: 1280 },
  { width: 16, height: 8192 },
] as const;

/** Two seconds in four slots, all of the same clip. */
function montageOf(
  video: NonNullable<ReturnType<typeof mediaOf>['video']>,
  shape: (typeof SHAPES)[number],
  framing: 'fill' | 'fit',
): Montage {
  const { width, height, rate, frames } = video;
  const item = {
    assetId: 'clip',
    kind: 'clip' as const,
    name: 'clip',
    width,
    height,
    rate,
    frames,
    hasSound: false,
    ...UNDESCRIBED,
    framing,
  };
  let m: Montage = { ...emptyMontage(), shape: { ...shape, rate: { num: 25, den: 1 } } };
  m = carryOut(m, { do: 'setSong', assetId: 'song', name: 'song', length: 2 });
  m = carryOut(m, { do: 'takeBeatTimes', times: [0, 0.5, 1, 1.5], metre: 4 });
  m = carryOut(m, { do: 'addFootage', items: [item] });
  m = carryOut(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 1 } });
  return carryOut(m, { do: 'fill', options: FILL_DEFAULTS });
}

const whole = (...values: number[]): boolean => values.every((v) => Number.isInteger(v) && v > 0);

test('what is let in can be saved, shown and exported, whatever a file says of itself', () => {
  let letIn = 0;
  fc.assert(
    fc.property(found, fc.constantFrom(...SHAPES), fc.constantFrom('fill' as const, 'fit' as const), (says, shape, framing) => {
      let media;
      try {
        media = mediaOf('kites.mp4', says);
      } catch (error) {
        expect(error).toBeInstanceOf(UnusableMediaError);
        expect((error as Error).message).toMatch(/^"kites\.mp4" .+\. .+\.$/);
        return;
      }
      const { video, length } = media;
      // What is longer is refused where files are taken in.
      if (!video || length > 6 * 3600) return;
      letIn++;
      const m = montageOf(video, shape, framing);
      // It can be saved: what comes back is what was sent.
      expect(readMontage(JSON.parse(JSON.stringify(m)))).toEqual(m);
      // It can be shown.
      const { frames } = scoreOf(m);
      expect(picturesIn(drawListAt(m, 0)).length + picturesIn(drawListAt(m, frames - 1)).length).toBeGreaterThan(0);
      const proxy = fitWithin(video.width, video.height, { width: 960, height: 960 });
      const strip = planStrip(video, length, video.rate.num / video.rate.den);
      expect(whole(proxy.width, proxy.height, strip.width, strip.height, strip.pictures, strip.rows, strip.step)).toBe(true);
      expect(strip.width * strip.columns * strip.height * strip.rows).toBeLessThan(2 ** 28);
      // It can be exported: each of its pictures is cut and scaled to the frame.
      const plan = filmPlan(m, 0, frames);
      expect(plan.runs.length).toBeGreaterThan(0);
      for (const { item } of plan.runs) {
        const filters = [...countFrames(video, 'before'), ...squarePixels(video), ...frameOnScreen(item, item.size, m.shape)].join();
        expect(filters).not.toMatch(/NaN|Infinity|undefined|null|-\d+:-\d+/);
        const { source, target } = item;
        expect(whole(source.width, source.height, target.width, target.height)).toBe(true);
        expect(source.x >= 0 && source.x + source.width <= item.size.width && source.y >= 0).toBe(true);
        expect(source.y + source.height <= item.size.height).toBe(true);
        expect(target.x >= 0 && target.x + target.width <= shape.width && target.y >= 0).toBe(true);
        expect(target.y + target.height <= shape.height).toBe(true);
      }
      expect(syncReport(m).cuts.length).toBeGreaterThan(0);
    }),
    { numRuns: 400 },
  );
  expect(letIn).toBeGreaterThan(40);
});
