import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { carryOut } from '../../commands/carry-out.ts';
import type { Montage } from '../../document/montage.ts';
import { FILL_DEFAULTS } from '../../fill/fill-options.ts';
import { scoreOf } from '../../score/score.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../../testing/sample-montage.ts';
import { CUT_FORMATS, readCut } from './all.ts';
import { cutList } from './cut-list.ts';
import { findMedia } from './found-media.ts';

const RATE = { num: 30, den: 1 };
const CLIPS = [
  sampleClip('kites', 20),
  sampleClip('hill', 20, { rate: { num: 25, den: 1 } }),
  sampleClip('strings', 20),
  samplePhoto('flag'),
];

/** What the main line shows, frame by frame: which clip, and where it begins and how it runs. */
type Piece = readonly [frame: number, frames: number, name: string | null, from: number, speed: number];
const shown = (montage: Montage): Piece[] =>
  cutList(montage).main.map(({ frame, frames, item, sourceIn, speed }) => [
    frame,
    frames,
    item?.name ?? null,
    item?.kind === 'clip' ? Math.round(sourceIn * 50) / 50 : 0,
    item?.kind === 'clip' ? Math.round(speed * 100) / 100 : 1,
  ]);

describe('a cut that goes out and comes in again is the same', () => {
  test.each(['otio', 'edl'] as const)('as %s', (format) => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4 }),
        fc.array(fc.tuple(fc.nat(9), fc.constantFrom(0.5, 1.5, 2, -1, 'freeze', 'empty')), { maxLength: 6 }),
        (every, changes) => {
          let montage = carryOut(sampleMontage(20, CLIPS), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 2 * every } });
          montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
          for (const [n, change] of changes) {
            const placed = scoreOf(montage).slots[n]?.placed;
            if (!placed || placed.item.kind === 'photo') continue;
            const { id } = placed.shot;
            if (change === 'empty') montage = carryOut(montage, { do: 'takeDownShot', id });
            else if (change === 'freeze') {
              // A list has no freezing but by its speed, which it says in tenths of a frame.
              if (format === 'otio') montage = carryOut(montage, { do: 'freezeShot', id, source: 2 });
            } else if (typeof change === 'number') {
              if (change === -1) montage = carryOut(montage, { do: 'slipShot', id, by: 10 });
              montage = carryOut(montage, { do: 'setRate', id, rate: change });
            }
          }
          if (scoreOf(montage).slots.every(({ placed }) => !placed)) return;
          const text = CUT_FORMATS[format].write(montage, { name: 'Kites' });
          const { run, missing } = findMedia(readCut(`kites.${format}`, text, RATE), montage.footage);
          expect(missing).toEqual([]);
          const again = carryOut(sampleMontage(20, CLIPS), { do: 'layRun', run, at: 0 });
          // Clips of another rate begin on their own frames, of which a list knows nothing.
          const near = (a: readonly Piece[], b: readonly Piece[]): void => {
            expect(a.length).toBe(b.length);
            a.forEach((piece, i) => {
              const [x, y] = [piece, b[i]!];
              expect(x.slice(0, 3)).toEqual(y.slice(0, 3));
              expect(Math.abs(x[3] - y[3])).toBeLessThan(0.045);
              expect(x[4]).toBeCloseTo(y[4], 1);
            });
          };
          near(shown(again), shown(montage));
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('an edit decision list from elsewhere', () => {
  const list = (...lines: string[]): string => ['TITLE: X', 'FCM: NON-DROP FRAME', '', ...lines].join('\n');

  test('names, black, a dissolve, a speed and sound', () => {
    const text = list(
      '001  TAPE1    V     C        10:00:02:00 10:00:04:00 01:00:00:00 01:00:02:00',
      '* FROM CLIP NAME: kites.mp4',
      '002  BL       V     C        00:00:00:00 00:00:01:00 01:00:02:00 01:00:03:00',
      '003  TAPE1    V     C        10:00:04:00 10:00:04:00 01:00:03:00 01:00:03:00',
      '003  TAPE2    V     D    015 00:00:01:00 00:00:02:00 01:00:03:00 01:00:05:00',
      '* FROM CLIP NAME: kites.mp4',
      '* TO CLIP NAME: hill.mp4',
      'M2   TAPE2       015.0                00:00:01:00',
      '004  TAPE1    A     C        10:00:02:00 10:00:04:00 01:00:00:00 01:00:02:00',
    );
    const { pieces, notes } = readCut('x.edl', text, RATE);
    expect(pieces.map(({ name, length, from, speed }) => [name, length, from, speed])).toEqual([
      ['kites.mp4', 2, 36_002, 1],
      [null, 1, 0, 1],
      ['hill.mp4', 2, 1, 0.5],
    ]);
    expect(notes).toEqual(['transitions', 'sound']);
    // A clip's time may begin at an hour of its own.
    expect(findMedia({ pieces, notes }, CLIPS).run[0]).toMatchObject({ assetId: 'kites', in: 2 });
  });

  test('time codes with dropped numbers are counted as what is shown', () => {
    const text = '001  KITES    V     C        00:01:00;02 00:01:01;02 01:00:00;00 01:00:01;00\n';
    const { pieces } = readCut('x.edl', text, { num: 30_000, den: 1001 });
    // The first frame after a full minute is number 1800.
    expect(pieces[0]!.from).toBeCloseTo((1800 * 1001) / 30_000, 6);
    expect(pieces[0]!.length).toBeCloseTo((30 * 1001) / 30_000, 6);
  });

  test.each([
    [
      '001  KITES    V     C        00:00:00:29 00:00:01:00 01:00:00:00 01:00:01:00',
      /Line 4 counts 29 frames in a second, and the montage has 25/,
    ],
    [
      '001  KITES    V     C        00:61:00:00 00:00:01:00 01:00:00:00 01:00:01:00',
      /Line 4 has a time code that cannot be read: 00:61:00:00/,
    ],
    ['001  KITES    V     C        00:00:00:00 00:00:01:00 01:00:02:00 01:00:01:00', /Line 4 ends before it begins/],
    ['hello', /There is no picture in this list/],
    ['001  BL       V     C        00:00:00:00 00:00:01:00 01:00:00:00 01:00:01:00', /There is no clip in this cut/],
  ])('%s', (line, says) => expect(() => readCut('x.edl', list(line), { num: 25, den: 1 })).toThrow(says));
});

describe('an OpenTimelineIO document from elsewhere', () => {
  const time = (value: number, rate = 24): object => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate });
  const range = (start: number, duration: number, rate = 24): object => ({
    OTIO_SCHEMA: 'TimeRange.1',
    start_time: time(start, rate),
    duration: time(duration, rate),
  });
  const clip = (more: object): object => ({ OTIO_SCHEMA: 'Clip.1', name: 'x', source_range: range(24, 48), effects: [], ...more });
  const timeline = (children: readonly object[], kind = 'Video'): string =>
    JSON.stringify({
      OTIO_SCHEMA: 'Timeline.1',
      tracks: { OTIO_SCHEMA: 'Stack.1', children: [{ OTIO_SCHEMA: 'Track.1', kind, children }] },
    });

  test('the older form of a clip, media that begin at an hour, a path, a nested cut, transitions', () => {
    const text = timeline([
      clip({
        media_reference: {
          OTIO_SCHEMA: 'ExternalReference.1',
          target_url: 'file:///a/b/kites%20up.mp4?x#y',
          available_range: range(86_400, 480),
        },
        source_range: range(86_448, 48),
      }),
      { OTIO_SCHEMA: 'Transition.1', in_offset: time(6), out_offset: time(6) },
      { OTIO_SCHEMA: 'Stack.1', source_range: range(0, 24), children: [] },
      clip({
        name: 'hill.mp4',
        media_reference: { OTIO_SCHEMA: 'MissingReference.1' },
        effects: [{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: 2 }],
      }),
    ]);
    const { pieces, notes } = readCut('x.otio', text, RATE);
    expect(pieces).toEqual([
      { name: 'kites up.mp4', length: 2, from: 2, speed: 1, mediaLength: 20 },
      { name: null, length: 1, from: 0, speed: 1, mediaLength: null },
      { name: 'hill.mp4', length: 2, from: 1, speed: 2, mediaLength: null },
    ]);
    expect(notes).toEqual(['transitions', 'cuts within the cut']);
  });

  test.each([
    ['no JSON', '{"OTIO_SCHEMA": ', /not valid JSON, or it was cut off/],
    ['something else', '{"a": 1}', /names no schema/],
    ['a schema of its own', timeline([{ OTIO_SCHEMA: 'Spell.1' }]), /something unknown \(Spell[.]1\)/],
    ['sound alone', timeline([clip({})], 'Audio'), /no picture track/],
    ['a rate that cannot be', timeline([clip({ source_range: range(0, 48, 0) })]), /a time that cannot be: 0 at 0 a second/],
    ['nothing but black', timeline([{ OTIO_SCHEMA: 'Gap.1', source_range: range(0, 24) }]), /There is no clip in this cut/],
  ])('%s is refused', (_, text, says) => expect(() => readCut('x.otio', text, RATE)).toThrow(says));
});

test('a file of another kind says what is read', () => {
  expect(() => readCut('cut.xml', '', RATE)).toThrow(
    'A cut is read from one of these: OpenTimelineIO (.otio), Edit decision list (.edl). "cut.xml" is none of them.',
  );
});

test('footage is found by its name, without its ending, by its reel; of two the one of its length; what is missing can be pointed at', () => {
  const footage = [sampleClip('kites', 5), { ...sampleClip('long', 9), name: 'kites.mov' }, sampleClip('a', 4)];
  const piece = (name: string, mediaLength: number | null = null): Parameters<typeof findMedia>[0]['pieces'][number] => ({
    name,
    length: 1,
    from: 0,
    speed: 1,
    mediaLength,
  });
  const of = (name: string, mediaLength: number | null = null, pointed = {}): string | null =>
    findMedia({ pieces: [piece(name, mediaLength)], notes: [] }, footage, pointed).run[0]!.assetId;
  expect(of('kites.mp4')).toBe('kites');
  expect(of('kites.mxf', 9)).toBe('long');
  expect(of('KITES')).toBe('kites');
  expect(of('b.mp4')).toBeNull();
  expect(of('b.mp4', null, { 'b.mp4': 'a' })).toBe('a');
  expect(findMedia({ pieces: [piece('b.mp4'), piece('b.mp4')], notes: [] }, footage).missing).toEqual([{ name: 'b.mp4', pieces: 2 }]);
});
