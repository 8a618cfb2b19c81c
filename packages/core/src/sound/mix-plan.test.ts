import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { sampleClip, sampleMontage, samplePhoto } from '../testing/sample-montage.ts';
import { CLIP_FADE_S, clipLevel, mixPlan, songLevel, type ClipSound } from './mix-plan.ts';
import { carryOut } from '../commands/carry-out.ts';
import { scoreOf } from '../score/score.ts';
import type { Command } from '../commands/all.ts';
import type { Montage } from '../document/montage.ts';

const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);
const ids = (m: Montage): string[] => m.shots.map((s) => s.id);

/** Two clips that can be heard, by turns in slots of two bars, 4 s each. */
function heard(level = 0.6): Montage {
  const clips = [sampleClip('a', 20), sampleClip('b', 30)].map((c) => ({ ...c, hasSound: true }));
  const m = act(
    sampleMontage(8, clips),
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 2 } },
    { do: 'fill', options: FILL_DEFAULTS },
  );
  return act(m, { do: 'setShotSound', ids: ids(m), level });
}

describe('the sound of clips', () => {
  test('is heard where its picture is seen, from the same moment of the clip', () => {
    const m = heard();
    const { clips } = mixPlan(m);
    const slots = scoreOf(m).slots;
    expect(clips).toHaveLength(slots.length);
    for (const [i, clip] of clips.entries()) {
      const { placed, start, frames } = slots[i]!;
      expect(clip).toMatchObject({ assetId: placed!.item.assetId, level: 0.6, speed: 1, fadeIn: 0.01, fadeOut: 0.01 });
      expect(clip.at).toBeCloseTo(start.frame / 30, 9);
      expect(clip.length).toBeCloseTo(frames / 30, 9);
      expect(clip.from).toBeCloseTo(placed!.shot.sourceIn, 9);
    }
  });
  test('follows an eased curve in short steps that meet: no fade between them, and never beside the picture', () => {
    const m = heard();
    const [id] = ids(m);
    const mark = m.marks.find((x) => Math.abs(x.time - 2) < 1e-6)!.id;
    fc.assert(
      fc.property(fc.double({ min: 1.2, max: 3, noNaN: true }), (source) => {
        const tied = act(m, { do: 'tieFrame', id: id!, markId: mark, source }, { do: 'setEase', id: id!, ease: 'eased' });
        const { placed } = scoreOf(tied).slots[0]!;
        const own = mixPlan(tied).clips.filter((c) => c.at < 4 - 1e-6);
        expect(own.length).toBeGreaterThan(8);
        for (const [i, c] of own.entries()) {
          expect(c.fadeIn > 0).toBe(i === 0);
          expect(c.fadeOut > 0).toBe(i === own.length - 1);
          if (i > 0) expect(c.at).toBeCloseTo(own[i - 1]!.at + own[i - 1]!.length, 9);
          expect(c.from).toBeCloseTo(placed!.curve.source(c.at), 9);
          expect(c.from + c.speed * c.length).toBeCloseTo(placed!.curve.source(c.at + c.length), 9);
        }
      }),
      { numRuns: 30 },
    );
  });
  test('goes along with a transition: both clips are heard while both are seen, one fading into the other', () => {
    const m = heard();
    const cut = scoreOf(m).slots[1]!.start.id;
    const with2 = (kind: 'dissolve' | 'push' | 'black'): ClipSound[] => [
      ...mixPlan(act(m, { do: 'setTransition', pegIds: [cut], transition: { kind, beats: 2, place: 'over' } })).clips,
    ];
    // One second over the cut at 4 s; the second clip starts at its first frame, so it is heard from the cut on.
    for (const kind of ['dissolve', 'push'] as const) {
      const [before, after] = with2(kind);
      expect(before!.at + before!.length).toBeCloseTo(4.5, 6);
      expect(before!.fadeOut).toBeCloseTo(1, 6);
      expect(after!.at).toBeCloseTo(4, 6);
      expect(after!.fadeIn).toBeCloseTo(0.5, 6);
    }
    const slipped = act(
      m,
      { do: 'slipShot', id: ids(m)[1]!, by: 2 },
      { do: 'setTransition', pegIds: [cut], transition: { kind: 'dissolve', beats: 2, place: 'over' } },
    );
    const [, after] = mixPlan(slipped).clips;
    expect([after!.at, after!.from, after!.fadeIn]).toEqual([expect.closeTo(3.5, 6), expect.closeTo(1.5, 6), expect.closeTo(1, 6)]);
    expect(with2('black').map((c) => c.fadeOut)).toEqual([CLIP_FADE_S, CLIP_FADE_S]);
  });
  test('a silent clip, a photo and a clip turned down to nothing are not heard', () => {
    expect(mixPlan(heard(0)).clips).toEqual([]);
    const mute = act(
      sampleMontage(8, [sampleClip('a', 2), samplePhoto('p')]),
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
      { do: 'fill', options: FILL_DEFAULTS },
    );
    expect(new Set(mute.shots.map((s) => s.assetId))).toEqual(new Set(['a', 'p']));
    expect(mixPlan(act(mute, { do: 'setShotSound', ids: ids(mute), level: 1 })).clips).toEqual([]);
  });
});

describe('levels', () => {
  const clip: ClipSound = { assetId: 'a', at: 3, length: 2, from: 0, speed: 1, level: 0.5, fadeIn: 0.01, fadeOut: 0.01, line: null };
  test('a clip comes in and goes out over its short fades, and is at its level between', () => {
    expect([0, CLIP_FADE_S / 2, CLIP_FADE_S, 1, 2 - CLIP_FADE_S / 2, 2].map((t) => clipLevel(clip, t))).toEqual(
      [0, 0.25, 0.5, 0.5, 0.25, 0].map((l) => expect.closeTo(l, 9)),
    );
    expect([0, 2].map((t) => clipLevel({ ...clip, fadeIn: 0, fadeOut: 0 }, t))).toEqual([0.5, 0.5]);
    expect(clipLevel(clip, 2.5)).toBe(0);
  });
  test('the song plays at its own level between its fades, whatever the clips do', () => {
    const plan = mixPlan(act(heard(), { do: 'setFades', fadeIn: 2, fadeOut: 4 }));
    const end = plan.length;
    expect([-1, 0, 1, 2, end / 2, end - 4, end - 1, end, end + 1].map((t) => songLevel(plan, t))).toEqual(
      [0, 0, 0.5, 1, 1, 1, 0.25, 0, 0].map((l) => expect.closeTo(l, 9)),
    );
    expect(songLevel({ ...plan, song: null }, 5)).toBe(0);
    expect(songLevel(mixPlan(heard()), 0)).toBe(1);
  });
});

describe('sound effects', () => {
  test('have their hit on their mark, begin later where there is no room before it, and end with the montage', () => {
    const m = act(
      sampleMontage(8, []),
      { do: 'addSounds', sounds: [{ assetId: 'whoosh', name: 'whoosh.wav', length: 2.5, hit: 1.2 }] },
      { do: 'addEffect', kind: 'sound', what: 'bar', assetId: 'whoosh' },
    );
    const { clips } = mixPlan(act(m, { do: 'changeEffects', ids: m.effects.map((e) => e.id), strength: 0.4 }));
    expect(clips.map((c) => [c.at, c.from].map((t) => Math.round(1000 * t)))).toEqual([
      [0, 1200],
      [800, 0],
      [2800, 0],
      [4800, 0],
    ]);
    for (const [i, c] of clips.entries()) {
      expect(c).toMatchObject({ assetId: 'whoosh', speed: 1, level: 0.4, fadeIn: 0.01, fadeOut: 0.01 });
      // Where the hit is heard.
      expect(c.at + 1.2 - c.from).toBeCloseTo(2 * i);
      expect(c.at + c.length).toBeLessThanOrEqual(8 + 1e-9);
    }
  });
});
