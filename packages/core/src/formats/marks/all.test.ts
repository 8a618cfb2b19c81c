import { BANDS } from '../../music/accents.ts';
import { MARK_KINDS } from '../../marks/kinds/all.ts';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import midiFile from 'midi-file';
import { inTime, type FileMark, type Marking } from '../../marks/marking.ts';
import { lostIn, MARKS_FORMATS, readMarks, writeMarks, type MarksFormat } from './all.ts';

const bytes = (text: string | Uint8Array): Uint8Array => (typeof text === 'string' ? new TextEncoder().encode(text) : text);

/** Marks as an editor might have them: beats in bars of a metre at a tempo that varies, and others strewn among them. */
const markings = fc
  .record({
    gaps: fc.array(fc.integer({ min: 230, max: 1400 }), { minLength: 8, maxLength: 60 }),
    first: fc.integer({ min: 0, max: 20_000 }),
    metre: fc.integer({ min: 2, max: 7 }),
    pickup: fc.integer({ min: 0, max: 3 }),
    others: fc.array(
      fc.record({
        kind: fc.constantFrom('drop' as const, 'accent' as const, 'cue' as const),
        at: fc.integer({ min: 0, max: 30_000 }),
        label: fc.stringMatching(/^[a-zé][a-zé ,"]{0,10}[a-z]$/),
        band: fc.constantFrom(...BANDS),
        strength: fc.integer({ min: 1, max: 127 }),
      }),
      { maxLength: 12 },
    ),
    sections: fc.array(
      fc.record({ at: fc.integer({ min: 0, max: 30_000 }), name: fc.constantFrom('A', 'B', 'intro', 'second chorus', 'a-b', 'refrain 2') }),
      { maxLength: 4 },
    ),
  })
  .map(({ gaps, first, metre, pickup, others, sections }): Marking => {
    let ms = first;
    const beats = gaps.map((gap, i): FileMark => {
      const mark = { kind: (i - pickup) % metre === 0 && i >= pickup ? ('bar' as const) : ('beat' as const), time: ms / 1000 };
      ms += gap;
      return mark;
    });
    const rest = others.map(({ kind, at, label, band, strength }): FileMark => {
      const time = at / 1000;
      if (kind === 'accent') return { kind, time, band, strength: strength / 127 };
      return kind === 'cue' ? { kind, time, label } : { kind, time };
    });
    const stretches = sections.map(({ at, name }) => ({ from: at / 1000, name })).sort((a, b) => a.from - b.from);
    return { marks: inTime([...beats, ...rest]), sections: stretches, length: 90 };
  });

/** Marks as comparable rows, sorted; times to so many places. */
const rows = (marking: Marking, places: number, only: readonly string[] = MARK_KINDS): string[] =>
  [
    ...marking.marks
      .filter((m) => only.includes(m.kind))
      .map((m) => [m.time.toFixed(places), m.kind, m.label ?? '', m.band ?? '', m.strength?.toFixed(3) ?? ''].join('|')),
    ...(only.length > 1 ? marking.sections.map((s) => `${s.from.toFixed(places)}|section ${s.name}`) : []),
  ].sort();

describe('round trips', () => {
  test.each(['labels', 'csv', 'jams', 'json'] as const)('%s loses nothing', (format) => {
    fc.assert(
      fc.property(markings, (marking) => {
        const read = readMarks(`song.${MARKS_FORMATS[format].endings[0]}`, bytes(writeMarks(format, marking)));
        expect(rows(read, 6)).toEqual(rows(marking, 6));
        expect(lostIn(format, marking)).toBe('');
      }),
      { numRuns: 60 },
    );
  });

  test('MIDI keeps beats, bars, drops, cues, accents and sections to 0.1 ms', () => {
    fc.assert(
      fc.property(markings, (marking) => {
        const read = readMarks('song.mid', bytes(writeMarks('midi', marking)));
        const wanted = marking.marks;
        expect(read.marks.map((m) => `${m.kind} ${m.label ?? ''} ${m.band ?? ''}`).sort()).toEqual(
          wanted.map((m) => `${m.kind} ${m.label ?? ''} ${m.band ?? ''}`).sort(),
        );
        for (const kind of MARK_KINDS) {
          const mine = wanted.filter((m) => m.kind === kind).map((m) => m.time);
          const theirs = read.marks.filter((m) => m.kind === kind).map((m) => m.time);
          mine.forEach((t, i) => expect(Math.abs(theirs[i]! - t)).toBeLessThan(0.0001));
        }
        expect(read.sections.map((s) => s.name)).toEqual(marking.sections.map((s) => s.name));
      }),
      { numRuns: 60 },
    );
  });

  test('LRC keeps the cues to the millisecond and says what it loses', () => {
    fc.assert(
      fc.property(
        markings.filter((m) => m.marks.some((mark) => mark.kind === 'cue')),
        (marking) => {
          const read = readMarks('song.lrc', bytes(writeMarks('lrc', marking)));
          expect(rows(read, 3, ['cue'])).toEqual(rows(marking, 3, ['cue']));
          expect(lostIn('lrc', marking)).toMatch(/cannot hold everything but cues/);
        },
      ),
      { numRuns: 40 },
    );
  });

  test('plain text keeps the times', () => {
    const marks: FileMark[] = [
      { kind: 'bar', time: 0.5 },
      { kind: 'beat', time: 1.000_25 },
    ];
    expect(readMarks('a.txt', bytes(writeMarks('text', { marks, sections: [] }))).marks.map((m) => m.time)).toEqual([0.5, 1.000_25]);
    expect(lostIn('text', { marks, sections: [] })).toMatch(/kinds of marks/);
  });
});

describe('known files', () => {
  test('timed lyrics: several times on a line, words of their own, an offset, and lines without a time', () => {
    const text = '[ti:Kites]\n[offset:500]\n[00:10.00][00:20.50]Up we go\n[01:02.5]<01:02.50>wind <01:03.25>and sky\nlost\n';
    const { marks, notes } = readMarks('a.lrc', bytes(text));
    expect(marks).toEqual([
      { kind: 'cue', time: 9.5, label: 'Up we go' },
      { kind: 'cue', time: 20, label: 'Up we go' },
      { kind: 'cue', time: 62, label: 'wind' },
      { kind: 'cue', time: 62.75, label: 'and sky' },
    ]);
    expect(notes).toEqual(['1 lines without a time were passed over.']);
  });
  test('captions, SRT and WebVTT', () => {
    const srt = '1\r\n00:00:01,500 --> 00:00:03,000\r\nThe <i>line</i>\r\nruns out\r\n\r\n2\r\n00:01:00,250 --> 00:01:02,000\r\nCaught\r\n';
    expect(readMarks('a.srt', bytes(srt)).marks).toEqual([
      { kind: 'cue', time: 1.5, label: 'The line runs out' },
      { kind: 'cue', time: 60.25, label: 'Caught' },
    ]);
    const vtt = 'WEBVTT\n\n00:02.000 --> 00:04.000\nHold fast\n';
    expect(readMarks('a.vtt', bytes(vtt)).marks).toEqual([{ kind: 'cue', time: 2, label: 'Hold fast' }]);
  });
  test('a MIDI file of another program: tempo change, 6/8, and a marker', () => {
    const tracks: midiFile.MidiEvent[][] = [
      [
        { deltaTime: 0, type: 'timeSignature', numerator: 3, denominator: 4, metronome: 24, thirtyseconds: 8 },
        { deltaTime: 0, type: 'setTempo', microsecondsPerBeat: 500_000 },
        { deltaTime: 300, type: 'setTempo', microsecondsPerBeat: 1_000_000 },
        { deltaTime: 0, type: 'timeSignature', numerator: 6, denominator: 8, metronome: 24, thirtyseconds: 8 },
        { deltaTime: 0, type: 'marker', text: 'Take off' },
        { deltaTime: 299, type: 'endOfTrack' },
      ],
    ];
    const file = Uint8Array.from(midiFile.writeMidi({ header: { format: 1, numTracks: 1, ticksPerBeat: 100 }, tracks }));
    const { marks } = readMarks('x', file);
    expect(marks.filter((m) => m.kind !== 'cue').map((m) => [m.kind, m.time])).toEqual([
      ['bar', 0],
      ['beat', 0.5],
      ['beat', 1],
      ['bar', 1.5],
      ['beat', 3],
    ]);
    expect(marks.find((m) => m.kind === 'cue')).toEqual({ kind: 'cue', time: 1.5, label: 'Take off' });
  });
  test('what the command line prints as JSON', () => {
    const printed = {
      beats: [
        { time: 1, downbeat: true, confidence: 0.5 },
        { time: 1.5, downbeat: false, confidence: 1 },
      ],
      drops: [9],
      accents: [{ time: 2, band: 'low', strength: 1 }],
      sections: [{ from: 0, name: 'intro' }],
    };
    const { marks, sections } = readMarks('a.json', bytes(JSON.stringify(printed)));
    expect(marks.map((m) => `${m.kind} ${m.time}`)).toEqual(['bar 1', 'beat 1.5', 'accent 2', 'drop 9']);
    expect(sections).toEqual([{ from: 0, name: 'intro' }]);
  });
  test('a label track with strange labels makes cues of them', () => {
    expect(readMarks('a.txt', bytes('0.5\t0.5\tbar\n1.25\t2\tsplash!\n')).marks).toEqual([
      { kind: 'bar', time: 0.5 },
      { kind: 'cue', time: 1.25, label: 'splash!' },
    ]);
  });
});

describe('what cannot be read is refused with a sentence', () => {
  const cases: readonly (readonly [string, string | Uint8Array, RegExp])[] = [
    ['a.mid', Uint8Array.of(77, 84, 104, 100, 0, 0, 0, 6, 0, 1), /damaged/],
    ['a.csv', 'kind,label\nbeat,\n', /one of them must be "time"/],
    ['a.csv', 'time,kind\n1,wibble\n', /Row 2 is of a kind that is not known/],
    ['a.csv', 'time,kind\nx,beat\n', /Row 2 is not a time/],
    ['a.jams', '{"annotations": ', /damaged/],
    ['a.jams', '{}', /no annotations/],
    ['a.lrc', 'no times here', /no timed line/],
    ['a.vtt', 'WEBVTT\n', /no captions|cannot be read/],
    ['a.json', '{"marks": 3}', /not a list/],
    ['a.json', '{"length": 3}', /holds no marks/],
    ['a.json', '{"marks": [{"kind": "beat"}]}', /Mark 1 is not a time/],
    ['a.txt', 'la la', /Line 1 is not a time/],
    ['a.txt', '', /no times/],
  ];
  test.each(cases)('%s: %p', (name, content, sentence) => expect(() => readMarks(name, bytes(content))).toThrow(sentence));
});

test('every format has a title and an ending of its own', () => {
  const formats = Object.keys(MARKS_FORMATS) as MarksFormat[];
  expect(new Set(formats.map((f) => MARKS_FORMATS[f].endings[0])).size).toBe(formats.length);
});
