import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { carryOut } from '../commands/carry-out.ts';
import type { Command } from '../commands/all.ts';
import type { Montage } from '../document/montage.ts';
import { readMontage } from '../document/read-montage.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { placedTitles } from '../finish/titles.ts';
import { frameTime } from '../time/frames.ts';
import { toSongTime } from '../music/arrangement.ts';
import { scoreOf, slotOf } from '../score/score.ts';
import { sourceFrame } from '../score/placed-shot.ts';
import { everyThing } from '../testing/every-command.ts';
import { sampleClip, sampleMontage } from '../testing/sample-montage.ts';
import { carriedOver, type CarriedOver } from './carry-over.ts';

const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);

interface MadeSection {
  readonly name: string;
  readonly bars: number;
  readonly energy?: number;
}

/** Another song for a montage: so long a beat, so many beats a bar, a pick-up before its first bar, and sections of so many bars. */
function otherSong(
  m: Montage,
  { beat, metre = 4, pickUp = 0, sections }: { beat: number; metre?: number; pickUp?: number; sections: readonly MadeSection[] },
): Montage {
  const bars = sections.reduce((sum, s) => sum + s.bars, 0);
  const length = pickUp + bars * metre * beat;
  const beats = Array.from({ length: bars * metre }, (_, i) => ({ time: pickUp + i * beat, downbeat: i % metre === 0, confidence: 1 }));
  let at = 0;
  const placed = sections.map(({ name, bars: n, energy }) => {
    const from = at === 0 ? 0 : pickUp + at * metre * beat;
    at += n;
    return { from, name, ...(energy === undefined ? {} : { energy }) };
  });
  const detection = { beats, metre, sections: placed, drops: [], accents: [], verdict: null, agreement: 1, others: [] };
  return act(m, { do: 'setSong', assetId: 'other', name: 'other.wav', length }, { do: 'takeDetection', detection: detection as never });
}

/** A filled montage of a song with a cut on each bar: 120 a minute, sections of 4 and 6 bars. */
function filled(): Montage {
  const m = act(sampleMontage(20, [sampleClip('a', 30), sampleClip('b', 30), sampleClip('c', 30)]), {
    do: 'takeMarking',
    marking: {
      marks: [],
      sections: [
        { from: 0, name: 'calm' },
        { from: 8, name: 'wild' },
      ],
    },
  });
  return act(m, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } }, { do: 'fill', options: FILL_DEFAULTS });
}

/** What is seen, by places in the song counted in seconds. */
const cuts = (m: Montage): (readonly [number, string | undefined])[] =>
  scoreOf(m).slots.map((s) => [Math.round(toSongTime(m.song!.pieces, s.start.time) * 100) / 100, s.placed?.shot.id] as const);

test('on its own song a montage with everything in it stays as it is', () => {
  const m = everyThing();
  const { montage, left, matching } = carriedOver(m, m, { reach: 'all' });
  expect(left).toEqual([]);
  expect(matching).toEqual([0, 1]);
  expect(scoreOf(montage).slots.map((s) => [s.start.frame, s.frames, s.placed?.shot.id, s.placed?.shot.sourceIn])).toEqual(
    scoreOf(m).slots.map((s) => [s.start.frame, s.frames, s.placed?.shot.id, s.placed?.shot.sourceIn]),
  );
  for (const part of ['effects', 'titles', 'looks', 'fades', 'letterboxes', 'levels', 'marks', 'sectionRules'] as const)
    expect(montage[part]).toEqual(m[part]);
});

test('a faster song with the same bars: every cut on the same bar, every shot in its place', () => {
  const m = filled();
  const target = otherSong(m, {
    beat: 0.4,
    pickUp: 0.7,
    sections: [
      { name: 'calm', bars: 4 },
      { name: 'wild', bars: 6 },
    ],
  });
  const { montage, left, counts } = carriedOver(m, target, { reach: 'all' });
  expect(left).toEqual([]);
  expect(counts).toMatchObject({ shots: 10, empty: 0 });
  const shots = cuts(m).map(([, id]) => id);
  expect(cuts(montage)).toEqual([0, 2.3, 3.9, 5.5, 7.1, 8.7, 10.3, 11.9, 13.5, 15.1].map((time, i) => [time, shots[i]]));
});

test('sections that stand in another order are matched by name and energy, and take their own cut along', () => {
  const m = filled();
  const wild = { name: 'wild', bars: 6, energy: 1 };
  const calm = { name: 'calm', bars: 4, energy: 0 };
  const source = { ...m, song: { ...m.song!, sections: m.song!.sections.map((s, i) => ({ ...s, energy: i })) } };
  const { matching, montage, left } = carriedOver(source, otherSong(m, { beat: 0.5, sections: [wild, calm] }), { reach: 'all' });
  expect(matching).toEqual([1, 0]);
  // The montage's very first shot now begins in its middle.
  const shots = cuts(m).map(([, id]) => id);
  expect(cuts(montage).map(([, id]) => id)).toEqual([...shots.slice(4), ...shots.slice(0, 4)]);
  expect(left).toEqual([]);
});

test('a longer section goes on being cut as it was, into slots to be filled; a shorter one says what found no place', () => {
  const m = filled();
  const long = carriedOver(
    m,
    otherSong(m, {
      beat: 0.5,
      sections: [
        { name: 'calm', bars: 8 },
        { name: 'wild', bars: 6 },
      ],
    }),
    { reach: 'all' },
  );
  expect(long.counts).toMatchObject({ shots: 10, empty: 4 });
  expect(cuts(long.montage).map(([, id]) => id !== undefined)).toEqual(
    [...'1111000011111 1'].filter((c) => c !== ' ').map((c) => c === '1'),
  );
  const short = carriedOver(
    m,
    otherSong(m, {
      beat: 0.5,
      sections: [
        { name: 'calm', bars: 2 },
        { name: 'wild', bars: 6 },
      ],
    }),
    { reach: 'all' },
  );
  expect(short.left.map((l) => [l.what, l.at])).toEqual([
    ['shot', 4],
    ['shot', 6],
  ]);
  expect(short.counts.empty).toBe(0);
});

test('as long as it was: of a longer song only the likeliest sections are used, as far as they were cut', () => {
  const m = filled();
  const target = otherSong(m, {
    beat: 0.5,
    sections: [
      { name: 'calm', bars: 4 },
      { name: 'idle', bars: 8 },
      { name: 'wild', bars: 10 },
      { name: 'idle', bars: 8 },
    ],
  });
  const { montage, matching, left, counts } = carriedOver(m, target, { reach: 'as-long' });
  expect(matching).toEqual([0, null, 1, null]);
  expect(montage.song!.pieces).toEqual([
    { from: 0, to: 8 },
    { from: 24, to: 36 },
  ]);
  expect([left, counts.empty, scoreOf(montage).frames]).toEqual([[], 0, scoreOf(m).frames]);
});

test('sections are matched by hand, and none of them is refused', () => {
  const m = filled();
  const target = otherSong(m, {
    beat: 0.5,
    sections: [
      { name: 'calm', bars: 4 },
      { name: 'wild', bars: 6 },
    ],
  });
  const swapped = carriedOver(m, target, { reach: 'all', matching: [1, null] });
  expect(swapped.left.filter((l) => l.what === 'shot').map((l) => l.at)).toEqual([16, 18, 0, 2, 4, 6].sort((a, b) => a - b));
  expect(() => carriedOver(m, target, { reach: 'all', matching: [null, null] })).toThrow('Choose at least one');
});

test('in another metre a bar stays a bar, and what hung on a beat goes to the nearest', () => {
  const bare = filled();
  const m = act(bare, { do: 'addTitle', text: 'up', at: { markId: bare.marks.find((k) => k.time === 9.5)!.id }, beats: 2 });
  const target = otherSong(m, {
    beat: 0.5,
    metre: 3,
    sections: [
      { name: 'calm', bars: 4 },
      { name: 'wild', bars: 6 },
    ],
  });
  const { montage } = carriedOver(m, target, { reach: 'all' });
  expect(cuts(montage).map(([time]) => time)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map((bar) => bar * 1.5));
  // Three quarters of a bar are two and a quarter of its three beats.
  expect(placedTitles(montage)[0]!.from).toBe((4 * 1.5 + 2 * 0.5) * 30);
});

test('a hit is seen on the same beat, though the slot begins earlier', () => {
  let m = act(
    sampleMontage(20, [sampleClip('a', 30)]),
    { do: 'takeMarking', marking: { marks: [{ kind: 'drop', time: 5.5 }], sections: [] } },
    { do: 'setSelect', assetId: 'a', selectId: null, in: 2, out: 20 },
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 2 } },
  );
  m = act(m, { do: 'setHit', assetId: 'a', selectId: m.footage[0]!.selects[0]!.id, hit: 6 });
  m = act(m, { do: 'fill', options: { ...FILL_DEFAULTS, from: 'hit-mark', scope: 'chosen', slots: [scoreOf(m).slots[1]!.start.id] } });
  const shot = m.shots[0]!;
  expect(6 - shot.sourceIn).toBeCloseTo(1.5, 6);
  const { montage } = carriedOver(m, otherSong(m, { beat: 0.4, sections: [{ name: 'x', bars: 10 }] }), { reach: 'all' });
  const slot = slotOf(montage, shot.id)!;
  expect(slot.start.frame).toBe(Math.round(2 * 4 * 0.4 * 30));
  expect(sourceFrame(slot.placed, Math.round(3 * 0.4 * 30), montage)).toBe(180);
});

test('a clip that a slower song leaves short runs slower; drops meet drops, cues come along with their words', () => {
  const m = act(
    sampleMontage(20, [sampleClip('a', 2)]),
    {
      do: 'takeMarking',
      marking: {
        marks: [
          { kind: 'drop', time: 8.02 },
          { kind: 'cue', time: 12.5, label: 'now' },
        ],
        sections: [],
      },
    },
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
    { do: 'fill', options: { ...FILL_DEFAULTS, handles: false } },
  );
  const drop = m.marks.find((k) => k.kind === 'drop')!;
  const cue = m.marks.find((k) => k.kind === 'cue')!;
  const dressed = act(
    m,
    { do: 'toggleEffect', kind: 'punch', markId: drop.id, firing: [] },
    { do: 'addTitle', text: 'x', at: { markId: cue.id }, beats: 2 },
  );
  const bare = act(otherSong(dressed, { beat: 0.6, sections: [{ name: 'x', bars: 10 }] }), { do: 'addMark', kind: 'drop', time: 14.5 });
  const { montage, counts, left } = carriedOver(dressed, bare, { reach: 'all' });
  expect(counts.slowed).toBe(10);
  expect(scoreOf(montage).slots.every((s) => s.placed?.missing === 0)).toBe(true);
  const [effect] = montage.effects;
  expect(effect!.on).toMatchObject({ kind: 'moment', markId: bare.marks.find((k) => k.kind === 'drop')!.id, time: 14.5 });
  const now = montage.marks.find((k) => k.kind === 'cue')!;
  expect(now).toMatchObject({ label: 'now', time: 15 });
  expect(montage.titles[0]!.from).toMatchObject({ markId: now.id });
  expect(left).toEqual([]);
});

test('without a song, or without one to go to, it is said', () => {
  const m = filled();
  expect(() => carriedOver({ ...m, song: null }, m, { reach: 'all' })).toThrow('has no song');
  expect(() => carriedOver(m, { ...m, song: null }, { reach: 'all' })).toThrow('no song to lay it over');
});

describe('whatever the songs are', () => {
  const song = fc.record({
    beat: fc.double({ min: 0.3, max: 1.1, noNaN: true }),
    metre: fc.integer({ min: 2, max: 7 }),
    pickUp: fc.double({ min: 0, max: 1.5, noNaN: true }),
    sections: fc.array(
      fc.record({
        name: fc.constantFrom('calm', 'wild', 'idle'),
        bars: fc.integer({ min: 1, max: 9 }),
        energy: fc.double({ min: 0, max: 1, noNaN: true }),
      }),
      { minLength: 1, maxLength: 5 },
    ),
  });
  const whole = (m: Montage, from: Montage, { left, montage, counts }: CarriedOver): void => {
    // It is a montage that can be saved and read.
    expect(readMontage(JSON.parse(JSON.stringify(montage)))).toEqual(montage);
    const names = montage.pegs.map((p) => p.id);
    expect(new Set(names).size).toBe(names.length);
    // Each shot hangs or is listed, none twice.
    const hung = scoreOf(montage).slots.flatMap((s) => s.placed?.shot.id ?? []);
    expect(new Set(hung).size).toBe(hung.length);
    expect(hung.length).toBe(counts.shots - montage.shots.filter((s) => s.over).length);
    const seen = [...scoreOf(from).slots, ...scoreOf(from).over].filter((s) => s.placed).length;
    expect(counts.shots + left.filter((l) => l.what === 'shot' || l.what === 'cutaway').length).toBe(seen);
    expect(montage.titles.length + left.filter((l) => l.what === 'title').length).toBe(from.titles.length);
    expect(montage.marks.filter((k) => k.kind !== 'cue')).toEqual(m.marks.filter((k) => k.kind !== 'cue'));
  };
  test.each(['all', 'as-long'] as const)('nothing is lost without a word, and nothing hangs twice (%s)', (reach) => {
    const from = everyThing();
    fc.assert(
      fc.property(song, (made) => {
        const target = otherSong(from, made);
        whole(target, from, carriedOver(from, target, { reach }));
      }),
      { numRuns: 60 },
    );
  });
  test('cuts on bars stay cuts on bars, to half a frame', () => {
    const from = filled();
    fc.assert(
      fc.property(song, (made) => {
        const target = otherSong(from, made);
        const { montage } = carriedOver(from, target, { reach: 'all' });
        const bars = target.marks.filter((k) => k.kind === 'bar').map((k) => k.time);
        for (const peg of scoreOf(montage).pegs.slice(1, -1))
          expect(Math.min(...bars.map((bar) => Math.abs(bar - frameTime(peg.frame, montage.shape.rate))))).toBeLessThanOrEqual(
            0.5 / 30 + 1e-6,
          );
      }),
      { numRuns: 60 },
    );
  });
});
