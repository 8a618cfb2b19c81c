import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import type { Montage } from '../document/montage.ts';
import { readMontage } from '../document/read-montage.ts';
import { FILL_DEFAULTS } from '../fill/fill-options.ts';
import { sampleClip, sampleMontage } from '../testing/sample-montage.ts';
import { drawListAt, picturesIn } from '../picture/draw-list.ts';
import { tooManyFlashes } from './flashes.ts';
import { firingsOf, struckAt } from './firings.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Command } from '../commands/all.ts';

/** Eight seconds, a beat every fifteen frames, with clips in slots of sixty. */
const filled = (): Montage =>
  after(
    sampleMontage(8, [sampleClip('a', 9), sampleClip('b', 9)]),
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } },
    { do: 'fill', options: { ...FILL_DEFAULTS, order: 'story' } },
  );
const after = (montage: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, montage);
const frames = (montage: Montage): number[] => firingsOf(montage).map((f) => f.frame);
const bar = (montage: Montage, n: number): string => montage.marks.filter((m) => m.kind === 'bar')[n]!.id;

describe('effects', () => {
  test('fire on every mark of their kind, a downbeat being a beat too, and on cuts', () => {
    const montage = sampleMontage(4);
    const bars = after(montage, { do: 'addEffect', kind: 'flash', what: 'bar' });
    expect(frames(bars)).toEqual([0, 60]);
    expect(() => after(bars, { do: 'addEffect', kind: 'flash', what: 'bar' })).toThrow(/already/);
    expect(frames(after(montage, { do: 'addEffect', kind: 'flash', what: 'beat' }))).toEqual([0, 15, 30, 45, 60, 75, 90, 105]);
    expect(frames(after(montage, { do: 'addEffect', kind: 'flash', what: 'drop' }))).toEqual([]);
    const cuts = after(
      montage,
      { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 2 } },
      { do: 'addEffect', kind: 'shake', what: 'cut' },
    );
    expect(frames(cuts)).toEqual([30, 60, 90]);
  });
  test('only in their section, and move with their marks', () => {
    const montage = sampleMontage(8);
    const sections = [
      { id: 'A', from: 0, name: 'verse' },
      { id: 'B', from: 4, name: 'drop' },
    ];
    const song = { ...montage, song: { ...montage.song!, sections } };
    const dressed = after(song, { do: 'addEffect', kind: 'punch', what: 'bar', section: 'B' });
    expect(frames(dressed)).toEqual([120, 180]);
    expect(frames(after(dressed, { do: 'moveMarks', ids: [bar(dressed, 3)], by: 0.1 }))).toEqual([120, 183]);
    expect(() => after(song, { do: 'addEffect', kind: 'punch', what: 'bar', section: 'Z' })).toThrow(/no longer there/);
  });
  test('on one mark it is laid, left out and taken back', () => {
    const montage = sampleMontage(8);
    const at = bar(montage, 1);
    const all = after(montage, { do: 'addEffect', kind: 'flash', what: 'bar' });
    const without = after(all, { do: 'toggleEffect', kind: 'flash', markId: at, firing: [{ id: all.effects[0]!.id, at }] });
    expect(frames(without)).toEqual([0, 120, 180]);
    expect(frames(after(without, { do: 'toggleEffect', kind: 'flash', markId: at, firing: [] }))).toEqual([0, 60, 120, 180]);
    const one = after(montage, { do: 'toggleEffect', kind: 'dip', markId: at, firing: [] });
    expect(frames(one)).toEqual([60]);
    expect(after(one, { do: 'toggleEffect', kind: 'dip', markId: at, firing: [{ id: one.effects[0]!.id, at }] }).effects).toEqual([]);
    // Where its mark goes it stays where it was.
    expect(frames(after(one, { do: 'removeMarks', ids: [at] }))).toEqual([60]);
  });
  test('are whole on their mark and have died away after their beats', () => {
    const montage = after(
      sampleMontage(8),
      { do: 'addEffect', kind: 'flash', what: 'bar' },
      { do: 'addEffect', kind: 'punch', what: 'bar' },
    );
    const strong = after(montage, { do: 'changeEffects', ids: montage.effects.map((e) => e.id), strength: 1, beats: 1 });
    expect(struckAt(strong, 60)).toMatchObject({ veils: [{ colour: '#ffffff', opacity: 0.9 }], camera: { zoom: 1.25, x: 0, y: 0 } });
    expect(struckAt(strong, 67).veils[0]!.opacity).toBeCloseTo(0.9 * (8 / 15) ** 2);
    expect(struckAt(strong, 75)).toEqual({ camera: null, veils: [], look: null, mirror: null });
    expect(struckAt(strong, 59)).toEqual({ camera: null, veils: [], look: null, mirror: null });
  });
  test('of the sound are laid by sound, and go with it', () => {
    const sounds = ['whoosh', 'bell'].map((assetId) => ({ assetId, name: `${assetId}.wav`, length: 1, hit: 0.4 }));
    const montage = after(sampleMontage(8), { do: 'addSounds', sounds });
    const both = after(
      montage,
      { do: 'addEffect', kind: 'sound', what: 'bar', assetId: 'whoosh' },
      { do: 'addEffect', kind: 'sound', what: 'bar', assetId: 'bell' },
    );
    expect(frames(both)).toEqual([0, 0, 60, 60, 120, 120, 180, 180]);
    expect(struckAt(both, 60)).toEqual({ camera: null, veils: [], look: null, mirror: null });
    const at = bar(both, 1);
    const without = after(both, {
      do: 'toggleEffect',
      kind: 'sound',
      assetId: 'bell',
      markId: at,
      firing: [{ id: both.effects[1]!.id, at }],
    });
    expect(firingsOf(without).flatMap((f) => (f.frame === 60 ? [f.effect.assetId] : []))).toEqual(['whoosh']);
    expect(after(without, { do: 'removeSounds', assetIds: ['whoosh'] }).effects.map((e) => e.assetId)).toEqual(['bell']);
    expect(() => after(montage, { do: 'addEffect', kind: 'sound', what: 'bar', assetId: 'gong' })).toThrow(/no such sound/);
    const lost = { ...both, sounds: [] };
    expect(() => readMontage(lost)).toThrow(/sound that is not there/);
  });
  test('never bring an edge of the picture into sight', () => {
    const one = fc.tuple(fc.constantFrom('punch' as const, 'shake' as const), fc.constantFrom('beat' as const, 'bar' as const));
    const kinds = fc.uniqueArray(one, { minLength: 1, maxLength: 4, selector: (pair) => pair.join() });
    fc.assert(
      fc.property(kinds, fc.integer({ min: 0, max: 239 }), fc.double({ min: 0, max: 1, noNaN: true }), (list, frame, strength) => {
        let montage = list.reduce((m, [kind, what]) => after(m, { do: 'addEffect', kind, what }), sampleMontage(8));
        montage = after(montage, { do: 'changeEffects', ids: montage.effects.map((e) => e.id), strength, beats: 1.5 });
        const { camera, width, height } = drawListAt(montage, frame);
        if (!camera) return;
        expect(camera.zoom).toBeGreaterThan(1);
        expect(Math.abs(camera.x)).toBeLessThanOrEqual(((camera.zoom - 1) * width) / 2 + 1e-6);
        expect(Math.abs(camera.y)).toBeLessThanOrEqual(((camera.zoom - 1) * height) / 2 + 1e-6);
      }),
    );
  });
  test('a new song keeps what fires throughout and lets go of what belonged to the old one', () => {
    const montage = after(
      sampleMontage(8),
      { do: 'addEffect', kind: 'flash', what: 'bar' },
      { do: 'toggleEffect', kind: 'dip', markId: bar(sampleMontage(8), 1), firing: [] },
      { do: 'setSong', assetId: 'other', name: 'other', length: 9 },
    );
    expect(montage.effects.map((e) => e.kind)).toEqual(['flash']);
  });
  test('that show frames again hold or repeat the picture until their slot ends', () => {
    const base = filled();
    const frames = (m: Montage, list: readonly number[]): number[] => list.map((n) => picturesIn(drawListAt(m, n))[0]!.frame);
    const frozen = after(base, { do: 'toggleEffect', kind: 'freeze', markId: base.marks[2]!.id, firing: [] });
    expect(frames(frozen, [29, 30, 37, 44, 45])).toEqual([29, 30, 30, 30, 45]);
    const stuttering = after(base, { do: 'toggleEffect', kind: 'stutter', markId: base.marks[2]!.id, firing: [] });
    // Half a beat is seven and a half frames.
    expect(frames(stuttering, [30, 36, 37, 38, 44, 45])).toEqual([30, 36, 37, 30, 36, 30]);
    const late = after(base, { do: 'toggleEffect', kind: 'freeze', markId: base.marks[3]!.id, firing: [] });
    expect(frames(after(late, { do: 'changeEffects', ids: [late.effects[0]!.id], beats: 4 }), [59])).toEqual([45]);
    expect(drawListAt(after(late, { do: 'changeEffects', ids: [late.effects[0]!.id], beats: 4 }), 60).layers).toEqual(
      drawListAt(base, 60).layers,
    );
  });
  test('of one kind never lie on top of each other: the one that is meant most closely fires', () => {
    const base = filled();
    const every = after(base, { do: 'addEffect', kind: 'flash', what: 'bar' }, { do: 'addEffect', kind: 'flash', what: 'beat' });
    expect(firingsOf(every).filter((f) => f.frame === 60)).toHaveLength(1);
    const one = {
      ...every,
      effects: [
        ...every.effects,
        { id: 'e99', kind: 'flash' as const, on: { kind: 'moment' as const, markId: base.marks[4]!.id, time: 2 }, strength: 0.2, beats: 4 },
      ],
    };
    expect(firingsOf(one).find((f) => f.frame === 60)!.effect.id).toBe('e99');
  });
  test('die away as their curve says, and mirror which way they are told to', () => {
    const base = after(filled(), { do: 'addEffect', kind: 'mirror', what: 'bar' });
    expect(struckAt(base, 60).mirror).toBe('left');
    const ids = base.effects.map((e) => e.id);
    expect(struckAt(after(base, { do: 'changeEffects', ids, way: 'down' }), 60).mirror).toBe('down');
    const drained = after(filled(), { do: 'addEffect', kind: 'drain', what: 'bar' });
    const curve = (of: 'even' | 'whole' | 'swell'): number[] => {
      const m = after(drained, { do: 'changeEffects', ids: drained.effects.map((e) => e.id), curve: of });
      return [60, 75, 89].map((n) => Math.round(100 * (1 - struckAt(m, n).look!.saturation)));
    };
    expect(curve('even')).toEqual([100, 50, 3]);
    expect(curve('whole')).toEqual([100, 100, 100]);
    expect(curve('swell')).toEqual([0, 100, 10]);
  });
  test('that flash more than three times a second are said, and thinned out until they do not', () => {
    const safe = after(filled(), { do: 'addEffect', kind: 'flash', what: 'beat' });
    expect(tooManyFlashes(safe)).toEqual([]);
    const wild = after(safe, { do: 'addEffect', kind: 'strobe', what: 'bar' }, { do: 'doubleBeats' }, { do: 'doubleBeats' });
    const [first] = tooManyFlashes(wild);
    expect(first!.flashes).toBeGreaterThan(3);
    const thin = after(wild, { do: 'thinFlashes' });
    expect(tooManyFlashes(thin)).toEqual([]);
    expect(firingsOf(thin).length).toBeGreaterThan(4);
    expect(carryOut(thin, { do: 'thinFlashes' })).toBe(thin);
  });
});
