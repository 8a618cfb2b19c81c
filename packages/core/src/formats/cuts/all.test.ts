import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { carryOut } from '../../commands/carry-out.ts';
import type { Command } from '../../commands/all.ts';
import type { Montage } from '../../document/montage.ts';
import { FILL_DEFAULTS } from '../../fill/fill-options.ts';
import { scoreOf } from '../../score/score.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../../testing/sample-montage.ts';
import { CUT_FORMATS, type CutFormatName } from './all.ts';
import { cutList } from './cut-list.ts';
import { timeCode } from './edl.ts';

/** Ten seconds with a cut every two, of which one dissolves, one is slow, one is empty; a cutaway over the second slot. */
function cut(): Montage {
  const clips = [
    sampleClip('kites', 5),
    sampleClip('hill and sky', 5, { rate: { num: 25, den: 1 } }),
    sampleClip('strings', 5),
    samplePhoto('flag'),
  ];
  let montage = carryOut(sampleMontage(10, clips), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
  montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
  const { slots } = scoreOf(montage);
  const shot = (n: number): string => slots[n]!.placed!.shot.id;
  const commands: Command[] = [
    { do: 'setRate', id: shot(2), rate: 0.5 },
    { do: 'takeDownShot', id: shot(4) },
    { do: 'setTransition', pegIds: [slots[1]!.start.id], transition: { kind: 'dissolve', beats: 1, place: 'over' } },
    { do: 'hangOver', from: { frame: 70 }, to: { frame: 90 }, assetId: 'strings' },
  ];
  return commands.reduce(carryOut, montage);
}

interface Node {
  readonly OTIO_SCHEMA: string;
  readonly children?: readonly Node[];
  readonly [key: string]: unknown;
}

const otioOf = (montage: Montage): Node => JSON.parse(CUT_FORMATS.otio.write(montage, { name: 'Kite Day' })) as Node;

/** Every piece of a document, from its root on. */
function all(node: unknown): Node[] {
  if (Array.isArray(node)) return node.flatMap(all);
  if (typeof node !== 'object' || node === null) return [];
  const inside = Object.values(node).flatMap(all);
  return 'OTIO_SCHEMA' in node ? [node as Node, ...inside] : inside;
}

/** What the published schemas of OpenTimelineIO ask of each piece that is written. */
const FIELDS: Readonly<Record<string, readonly string[]>> = {
  'Timeline.1': ['name', 'metadata', 'global_start_time', 'tracks'],
  'Stack.1': ['name', 'metadata', 'source_range', 'effects', 'markers', 'enabled', 'children'],
  'Track.1': ['name', 'metadata', 'source_range', 'effects', 'markers', 'enabled', 'children', 'kind'],
  'Clip.2': ['name', 'metadata', 'source_range', 'effects', 'markers', 'enabled', 'media_references', 'active_media_reference_key'],
  'Gap.1': ['name', 'metadata', 'source_range', 'effects', 'markers', 'enabled'],
  'Transition.1': ['name', 'metadata', 'in_offset', 'out_offset', 'transition_type'],
  'LinearTimeWarp.1': ['name', 'metadata', 'effect_name', 'time_scalar'],
  'FreezeFrame.1': ['name', 'metadata', 'effect_name', 'time_scalar'],
  'ExternalReference.1': ['name', 'metadata', 'available_range', 'target_url'],
  'Marker.2': ['name', 'metadata', 'color', 'marked_range', 'comment'],
  'TimeRange.1': ['start_time', 'duration'],
  'RationalTime.1': ['rate', 'value'],
};

describe('OpenTimelineIO', () => {
  test('every piece has what its schema asks for, and none is of an unknown one', () => {
    const montage = carryOut(cut(), { do: 'freezeShot', id: scoreOf(cut()).slots[0]!.placed!.shot.id, source: 1 });
    const pieces = all(otioOf(montage));
    expect(new Set(pieces.map((p) => p.OTIO_SCHEMA))).toEqual(new Set(Object.keys(FIELDS)));
    for (const piece of pieces) expect(Object.keys(piece)).toEqual(expect.arrayContaining([...FIELDS[piece.OTIO_SCHEMA]!]));
  });

  test('the main line, written by hand', () => {
    const { tracks, name } = otioOf(cut()) as unknown as { tracks: Node; name: string };
    expect(name).toBe('Kite Day');
    const [score, over, song] = tracks.children!;
    expect([score!['kind'], over!['kind'], song!['kind']]).toEqual(['Video', 'Video', 'Audio']);
    const line = score!.children!.map((child) => {
      const range = child['source_range'] as { start_time: { value: number; rate: number }; duration: { value: number } } | undefined;
      return [child.OTIO_SCHEMA, child['name'], range && `${range.start_time.value}@${range.start_time.rate}`, range?.duration.value];
    });
    expect(line).toEqual([
      ['Clip.2', 'kites.mp4', '0@30', 60],
      ['Transition.1', 'dissolve', undefined, undefined],
      ['Clip.2', 'hill and sky.mp4', '0@25', 60],
      ['Clip.2', 'strings.mp4', '0@30', 60],
      ['Clip.2', 'flag.jpg', '0@30', 60],
      ['Gap.1', '', '0@30', 60],
    ]);
    expect(score!.children![1]).toMatchObject({ transition_type: 'SMPTE_Dissolve', in_offset: { value: 7 }, out_offset: { value: 8 } });
    expect(score!.children![3]!['effects']).toMatchObject([{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: 0.5 }]);
    expect(score!.children![2]!['media_references']).toMatchObject({
      DEFAULT_MEDIA: { target_url: 'hill%20and%20sky.mp4', available_range: { duration: { rate: 25, value: 125 } } },
    });
    expect(over!.children!.map((c) => [c.OTIO_SCHEMA, (c['source_range'] as { duration: { value: number } }).duration.value])).toEqual([
      ['Gap.1', 70],
      ['Clip.2', 20],
      ['Gap.1', 210],
    ]);
  });
});

describe('the edit decision list', () => {
  test('written by hand', () => {
    expect(CUT_FORMATS.edl.write(cut(), { name: 'Kite Day' }).split('\r\n')).toEqual([
      'TITLE: Kite Day',
      'FCM: NON-DROP FRAME',
      '',
      '001  KITES    V     C        00:00:00:00 00:00:02:00 01:00:00:00 01:00:02:00',
      '* FROM CLIP NAME: kites.mp4',
      '002  KITES    V     C        00:00:02:00 00:00:02:00 01:00:02:00 01:00:02:00',
      '002  HILLANDS V     D    015 00:00:00:00 00:00:02:00 01:00:02:00 01:00:04:00',
      '* FROM CLIP NAME: kites.mp4',
      '* TO CLIP NAME: hill and sky.mp4',
      '003  STRINGS  V     C        00:00:00:00 00:00:01:00 01:00:04:00 01:00:06:00',
      '* FROM CLIP NAME: strings.mp4',
      'M2   STRINGS        015.0                00:00:00:00',
      '004  FLAG     V     C        00:00:00:00 00:00:02:00 01:00:06:00 01:00:08:00',
      '* FROM CLIP NAME: flag.jpg',
      '005  BL       V     C        00:00:00:00 00:00:02:00 01:00:08:00 01:00:10:00',
      '',
    ]);
  });

  test('reels of clips that begin alike are told apart', () => {
    const clips = ['kite flight 1', 'kite flight 2', 'kite flight 3'].map((id) => sampleClip(id, 5));
    const montage = carryOut(carryOut(sampleMontage(6, clips), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }), {
      do: 'fill',
      options: FILL_DEFAULTS,
    });
    const reels = CUT_FORMATS.edl
      .write(montage, { name: '' })
      .match(/^\d{3} {2}\S+/gm)!
      .map((line) => line.slice(5));
    expect(reels).toEqual(['KITEFLIG', 'KITEFLI2', 'KITEFLI3']);
  });

  test.each([
    [0, 30, '00:00:00:00'],
    [29, 30, '00:00:00:29'],
    [107_999, 30, '00:59:59:29'],
    [25 * 3600, 25, '01:00:00:00'],
  ])('frame %i at %i a second is %s', (frames, base, code) => expect(timeCode(frames, base)).toBe(code));
});

describe('titles', () => {
  const titled = [
    { do: 'addTitle', text: 'Kites & <hills>', at: { time: 2 }, beats: 4 },
    { do: 'addTitle', text: 'The end\nof it', at: { time: 6.5 }, beats: 2 },
  ] satisfies Command[];
  test('as SRT and WebVTT, written by hand', () => {
    const montage = titled.reduce<Montage>(carryOut, cut());
    expect(CUT_FORMATS.srt.write(montage, { name: '' })).toBe(
      '1\r\n00:00:02,000 --> 00:00:04,000\r\nKites & <hills>\r\n\r\n2\r\n00:00:06,500 --> 00:00:07,500\r\nThe end\r\nof it\r\n\r\n',
    );
    expect(CUT_FORMATS.vtt.write(montage, { name: '' })).toBe(
      'WEBVTT\n\n00:00:02.000 --> 00:00:04.000\nKites &amp; &lt;hills&gt;\n\n00:00:06.500 --> 00:00:07.500\nThe end\nof it\n',
    );
  });
});

test('what a format cannot hold is said, and nothing where all goes along', () => {
  expect(CUT_FORMATS.otio.loses(sampleMontage(10))).toEqual([]);
  expect(CUT_FORMATS.edl.loses(cut())).toEqual([
    'the over line',
    "the frame rate of a clip (times are counted at the montage's)",
    'the song and its marks',
  ]);
  expect(CUT_FORMATS.srt.loses(cut())).toEqual(['everything: there are no titles']);
});

test('the lines of a cut are whole, whatever hangs in them', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 4 }),
      fc.array(fc.tuple(fc.nat(9), fc.constantFrom(0.3, 0.5, 1, 2, -1)), { maxLength: 5 }),
      (every, rates) => {
        let montage = carryOut(sampleMontage(20), { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every } });
        montage = carryOut(montage, { do: 'fill', options: FILL_DEFAULTS });
        for (const [n, rate] of rates) {
          const placed = scoreOf(montage).slots[n]?.placed;
          if (placed) montage = carryOut(montage, { do: 'setRate', id: placed.shot.id, rate });
        }
        const { main, over, frames } = cutList(montage);
        for (const line of [main, ...over]) {
          expect(line.reduce((at, piece) => (expect(piece.frame).toBe(at), at + piece.frames), 0)).toBe(frames);
          for (const piece of line) expect(piece.frames).toBeGreaterThan(0);
        }
        for (const name of Object.keys(CUT_FORMATS) as CutFormatName[])
          expect(CUT_FORMATS[name].write(montage, { name: 'x' }).length).toBeGreaterThanOrEqual(0);
      },
    ),
  );
});
