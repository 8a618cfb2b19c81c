import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { Montage } from '../document/montage.ts';
import { carryOut } from '../commands/carry-out.ts';
import { FILM_PRESETS, type FilmPresetName } from '../formats/films/all.ts';
import { seeded } from '../lists/seeded.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { chaptersOf } from './chapters.ts';
import { filmName, shapeLabel } from './film-name.ts';
import { askedFilm, filmSize, qualityOf, sizeInShape, type FilmWish } from './film-wish.ts';
import { foretell } from './foretell.ts';
import { FARTHEST_SHIFT, findCuts, PRINT_BYTES } from './prints.ts';
import { proofOf, type ProvenCut } from './proof.ts';
import { reportHtml } from './report-html.ts';
import { soundPlace } from './sound-place.ts';
import { syncReport } from '../report/sync-report.ts';

describe('what is asked for', () => {
  const montage = sampleMontage(20);

  test.each<readonly [FilmWish, readonly [number, number]]>([
    [{ preset: 'h264' }, [0, 600]],
    [{ preset: 'h264', stretch: { from: 1, to: 3 } }, [30, 90]],
    [{ preset: 'h264', stretch: { from: 1.01, to: 2.99 } }, [30, 90]],
    [{ preset: 'h264', stretch: { from: 18, to: 400 } }, [540, 600]],
    [{ preset: 'h264', rate: { num: 25, den: 1 } }, [0, 500]],
    [{ preset: 'gif', stretch: { from: 1, to: 3 } }, [25, 75]],
    [{ preset: 'png', stretch: { from: 2, to: 2 } }, [60, 61]],
  ])('%j shows frames %j', (wish, frames) => {
    const { from, to } = askedFilm(montage, wish);
    expect([from, to]).toEqual(frames);
  });

  test.each<readonly [FilmWish, string]>([
    [{ preset: 'h264', stretch: { from: 20, to: 22 } }, 'The stretch begins at 0:20.000, after the montage has ended. Choose another one.'],
    [{ preset: 'h264', stretch: { from: 5, to: 5 } }, 'The stretch is shorter than a frame. Choose a longer one.'],
  ])('%j is refused', (wish, says) => expect(() => askedFilm(montage, wish)).toThrow(says));

  test('a GIF of more than half a minute is refused', () => {
    expect(() => askedFilm(sampleMontage(40), { preset: 'gif' })).toThrow(
      'A GIF may be 30 s long, and this one is 40.0 s. Choose a shorter stretch.',
    );
  });

  test('sizes are within what a preset is held to, in shape, and even', () => {
    fc.assert(
      fc.property(fc.integer({ min: 8, max: 4096 }), fc.integer({ min: 8, max: 4096 }), (w, h) => {
        const size = filmSize(FILM_PRESETS.gif, { width: 2 * w, height: 2 * h });
        expect(size.width % 2).toBe(0);
        expect(size.height % 2).toBe(0);
        expect(Math.max(size.width, size.height)).toBeLessThanOrEqual(Math.max(640, 0));
        if (Math.min(size.width, size.height) > 100) expect(size.width / size.height / (w / h)).toBeCloseTo(1, 1);
      }),
    );
    expect(filmSize(FILM_PRESETS.h264, { width: 4000, height: 2000 })).toEqual({ width: 4000, height: 2000 });
  });

  test.each([
    ['9:16', null, [720, 1280]],
    ['1:1', null, [720, 720]],
    [null, 1080, [1920, 1080]],
    ['4:5', 1080, [1080, 1350]],
  ] as const)('%s with %s on the shorter side is %j', (shape, side, [width, height]) =>
    expect(sizeInShape(shape, { width: 1280, height: 720 }, side)).toEqual({ width, height }),
  );

  test('what is no shape is refused', () => {
    expect(() => sizeInShape('wide', { width: 1280, height: 720 }, null)).toThrow('"wide" is no shape. Give width to height, as 9:16.');
  });

  test('a quality that a preset has not is its middle one', () => {
    expect(qualityOf(FILM_PRESETS.h264, 'best')).toBe('best');
    expect(qualityOf(FILM_PRESETS.gif, 'best')).toBe('good');
    expect(qualityOf(FILM_PRESETS.h264, undefined)).toBe('good');
  });

  test('more of anything is foretold to be larger and longer in the making', () => {
    const of = (wish: FilmWish): ReturnType<typeof foretell> => foretell(askedFilm(montage, wish));
    for (const preset of Object.keys(FILM_PRESETS) as FilmPresetName[]) {
      if (preset === 'png') continue;
      const [short, long] = [of({ preset, stretch: { from: 0, to: 5 } }), of({ preset, stretch: { from: 0, to: 10 } })];
      expect(long.bytes).toBeGreaterThan(short.bytes);
      expect(long.work).toBeGreaterThan(short.work);
    }
    expect(of({ preset: 'h264', quality: 'best' }).bytes).toBeGreaterThan(of({ preset: 'h264', quality: 'small' }).bytes);
    expect(of({ preset: 'wav' })).toMatchObject({ frames: 600, seconds: 20, bytes: 20 * 176_400 });
  });
});

describe('names', () => {
  test.each([
    [1920, 1080, '16:9'],
    [720, 1280, '9:16'],
    [1080, 1080, '1:1'],
    [2560, 1080, '2560×1080'],
    [1440, 1080, '4:3'],
  ])('%i by %i is %s', (width, height, label) => expect(shapeLabel({ width, height })).toBe(label));

  test('files are named after project, shape and kind, without what no folder takes', () => {
    expect(filmName('Kites / strings: 1', 'h264', { width: 720, height: 1280 })).toBe('Kites strings 1 9x16.mp4');
    expect(filmName('???', 'wav', { width: 720, height: 1280 })).toBe('montage.wav');
  });
});

describe('chapters', () => {
  const sections = [
    { id: 'a', from: 0, name: 'intro' },
    { id: 'b', from: 5, name: 'drop' },
    { id: 'c', from: 12, name: 'end' },
  ];
  const withSections = (pieces: readonly { from: number; to: number }[]): Montage => {
    const montage = sampleMontage(20);
    return { ...montage, song: { ...montage.song!, sections, pieces } };
  };

  test('are the sections, from the start of the film to its end', () => {
    const montage = withSections([{ from: 0, to: 20 }]);
    expect(chaptersOf(montage, 0, 20)).toEqual([
      { title: 'intro', from: 0, to: 5 },
      { title: 'drop', from: 5, to: 12 },
      { title: 'end', from: 12, to: 20 },
    ]);
    expect(chaptersOf(montage, 6, 13)).toEqual([
      { title: 'drop', from: 0, to: 6 },
      { title: 'end', from: 6, to: 7 },
    ]);
  });

  test('of a shortened song are those that are heard', () => {
    expect(
      chaptersOf(
        withSections([
          { from: 2, to: 4 },
          { from: 14, to: 20 },
        ]),
        0,
        8,
      ),
    ).toEqual([
      { title: 'intro', from: 0, to: 2 },
      { title: 'end', from: 2, to: 8 },
    ]);
  });
});

describe('cuts found by prints', () => {
  /** Prints of shots of so many frames, each of another picture that moves a little, with the noise of coding on them. */
  function prints(shots: readonly number[], seed: number): Uint8Array {
    const random = seeded(seed);
    const all = new Uint8Array(shots.reduce((a, b) => a + b, 0) * PRINT_BYTES);
    let n = 0;
    for (const frames of shots) {
      const picture = Uint8Array.from({ length: PRINT_BYTES }, () => 40 + random() * 160);
      for (let f = 0; f < frames; f++, n++) for (let i = 0; i < PRINT_BYTES; i++) all[n * PRINT_BYTES + i] = picture[i]! + (f % 7);
    }
    return all;
  }
  const noisy = (clean: Uint8Array, seed: number): Uint8Array => {
    const random = seeded(seed);
    return clean.map((value) => value + Math.round(2 * random() - 1));
  };
  const shifted = (clean: Uint8Array, at: number, by: number): Uint8Array => {
    const cut = at * PRINT_BYTES;
    if (by < 0) return Uint8Array.from([...clean.subarray(0, cut), ...clean.subarray(cut - by * PRINT_BYTES)]);
    const again = Array.from({ length: by }, () => [...clean.subarray(cut - PRINT_BYTES, cut)]).flat();
    return Uint8Array.from([...clean.subarray(0, cut), ...again, ...clean.subarray(cut)]);
  };

  test('each is where it is, however many frames were lost or came twice before it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 9, max: 40 }), { minLength: 3, maxLength: 8 }),
        fc.integer({ min: -8, max: 8 }),
        fc.nat(1000),
        (shots, by, seed) => {
          const planned = prints(shots, seed);
          const starts = shots.slice(0, -1).map((_, i) => shots.slice(0, i + 1).reduce((a, b) => a + b, 0));
          const read = shifted(noisy(planned, seed + 1), 1, by < 0 ? Math.max(by, -1) : by);
          const real = by < 0 ? Math.max(by, -1) : by;
          const found = findCuts(
            planned,
            read,
            starts.map((frame, i) => ({ number: i + 1, frame })),
          );
          // Near the film's very ends there may be too little to go by.
          for (const cut of found.filter(({ frame }) => frame > 8 && frame < planned.length / PRINT_BYTES - FARTHEST_SHIFT - 4))
            expect(cut).toMatchObject({ found: cut.frame + real, why: null });
        },
      ),
      { numRuns: 60 },
    );
  });

  test('between pictures that are alike none is found, and where another picture stands that is said', () => {
    const same = new Uint8Array(40 * PRINT_BYTES).fill(90);
    expect(findCuts(same, noisy(same, 3), [{ number: 1, frame: 20 }])).toEqual([{ number: 1, frame: 20, found: null, why: 'alike' }]);
    const planned = prints([20, 20], 5);
    expect(
      findCuts(
        planned,
        planned.map((v) => 255 - v),
        [{ number: 1, frame: 20 }],
      ),
    ).toEqual([{ number: 1, frame: 20, found: null, why: 'another picture' }]);
  });
});

describe('the place of a sound', () => {
  const rate = 8000;
  const noise = (seed: number): Float32Array => {
    const random = seeded(seed);
    return Float32Array.from({ length: rate }, () => random() - 0.5);
  };
  const late = (samples: Float32Array, by: number): Float32Array => samples.map((_, i) => samples[i - by] ?? 0);

  test('is found to a sample, early and late, whatever its loudness', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1200, max: 1200 }), fc.nat(50), (by, seed) => {
        const meant = noise(seed);
        const place = soundPlace(
          late(meant, by).map((v) => 0.3 * v),
          meant,
          rate,
          0.2,
        )!;
        expect(place.late * rate).toBeCloseTo(by, 0);
        expect(place.likeness).toBeGreaterThan(0.7);
      }),
      { numRuns: 30 },
    );
  });

  test('is found between two samples', () => {
    const wave = (shift: number): Float32Array => Float32Array.from({ length: rate }, (_, i) => Math.sin((i - shift) ** 2 * 2e-5));
    expect(soundPlace(wave(10.4), wave(0), rate, 0.1)!.late * rate).toBeCloseTo(10.4, 1);
  });

  test('another sound is not like it, and silence has no place', () => {
    expect(soundPlace(noise(11), noise(977), rate, 0.2)!.likeness).toBeLessThan(0.25);
    expect(soundPlace(new Float32Array(rate), noise(2), rate, 0.2)).toBeNull();
  });
});

describe('the verdict', () => {
  const rate = { num: 25, den: 1 };
  const cut = (number: number, frame: number, found: number | null = frame, why: ProvenCut['why'] = null): ProvenCut => ({
    number,
    frame,
    found,
    why,
    time: found === null ? null : found / 25,
    errorMs: found === null ? null : 3,
  });
  const sound = (lateMs: number | null): { at: number; lateMs: number | null }[] => [{ at: 1, lateMs }];
  const frames = { planned: 100, read: 100 };

  test.each<readonly [string, Parameters<typeof proofOf>[0], boolean, number | null]>([
    [
      'All 2 cuts found in the film on their frames; sound 0.2 ms from the song.',
      { rate, frames, cuts: [cut(1, 25), cut(2, 50)], sound: sound(-0.2) },
      true,
      null,
    ],
    ['Its one cut found in the film on its frame.', { rate, frames, cuts: [cut(1, 25)], sound: [] }, true, null],
    [
      '1 of 2 cuts found in the film on their frames, 1 between pictures that are alike.',
      { rate, frames, cuts: [cut(1, 25), cut(2, 50, null, 'alike')], sound: [] },
      true,
      null,
    ],
    ['1 cut is not where it should be: 0:02, one frame late.', { rate, frames, cuts: [cut(1, 25), cut(2, 50, 51)], sound: [] }, false, 2],
    [
      '2 cuts are not where they should be, the first at 0:01: 3 frames early.',
      { rate, frames, cuts: [cut(1, 25, 22), cut(2, 50, 47)], sound: [] },
      false,
      1,
    ],
    [
      'Its one cut found in the film on its frame; the sound is 40 ms late.',
      { rate, frames, cuts: [cut(1, 25)], sound: sound(40) },
      false,
      0,
    ],
    [
      'Its one cut found in the film on its frame; the song cannot be told from the other sounds, so their place was not measured.',
      { rate, frames, cuts: [cut(1, 25)], sound: sound(null) },
      true,
      null,
    ],
    ['1 of 100 frames are missing; there is no cut in it.', { rate, frames: { planned: 100, read: 99 }, cuts: [], sound: [] }, false, 0],
  ])('%s', (verdict, found, good, wrongAt) => expect(proofOf(found)).toMatchObject({ verdict, good, wrongAt }));

  test('a page to send says it, with a row for each cut, and is safe whatever the names are', () => {
    const montage = carryOut(sampleMontage(10), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    const report = syncReport(montage);
    const proof = proofOf({
      rate: report.rate,
      frames: { planned: report.frames, read: report.frames },
      cuts: report.cuts.map(({ number, frame }) => cut(number, frame)),
      sound: [],
    });
    const page = reportHtml('<script>kites</script>', { ...report, proof });
    expect(page).toContain(proof.verdict);
    expect(page.match(/<tr>/g)).toHaveLength(report.cuts.length + 1);
    expect(page).not.toContain('<script>');
  });
});
