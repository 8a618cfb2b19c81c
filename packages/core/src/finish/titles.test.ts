import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import type { Montage } from '../document/montage.ts';
import { readMontage } from '../document/read-montage.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { drawListAt } from '../picture/draw-list.ts';
import { barsAround } from '../geometry/framing.ts';
import { copyTitle } from './copy-title.ts';
import { placedTitles, titlesAt } from './titles.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Command } from '../commands/all.ts';

const after = (montage: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, montage);
const beat = (montage: Montage, n: number): string => montage.marks[n]!.id;
const written = (more: Partial<Extract<Command, { do: 'changeTitle' }>> = {}): Montage => {
  const montage = sampleMontage(8);
  const titled = after(montage, { do: 'addTitle', text: ' Kite day \n on the down ', at: { markId: beat(montage, 2) }, beats: 4 });
  return after(titled, { do: 'changeTitle', id: titled.titles[0]!.id, ...more });
};
const place = (montage: Montage): [number, number][] => placedTitles(montage).map(({ from, to }) => [from, to]);

describe('titles', () => {
  test('stand from their mark for so many beats, and move with both', () => {
    const montage = written();
    expect(montage.titles[0]!.text).toBe('Kite day\non the down');
    expect(place(montage)).toEqual([[30, 90]]);
    expect(place(after(montage, { do: 'moveMarks', ids: [beat(montage, 2)], by: 0.1 }))).toEqual([[33, 90]]);
    expect(place(after(montage, { do: 'shiftAllMarks', by: 0.2 }))).toEqual([[36, 96]]);
    expect(place(written({ at: { time: 2.25 }, beats: 1 }))).toEqual([[68, 83]]);
  });
  test('end with the montage, and sleep with their mark', () => {
    expect(place(written({ beats: 200 }))).toEqual([[30, 240]]);
    const cutOut = after(written(), { do: 'setSongRange', pieces: [{ from: 3, to: 8 }] });
    expect(titlesAt(cutOut, 10)).toEqual([]);
    expect(place(after(written(), { do: 'removeMarks', ids: [beat(sampleMontage(8), 2)] }))[0]![0]).toBe(30);
  });
  test('come and go as they are told to, and are whole in between', () => {
    const opacity = (montage: Montage, frame: number): number => titlesAt(montage, frame)[0]?.lines[0]![0]!.opacity ?? 0;
    expect([29, 30, 89, 90].map((n) => opacity(written({ enter: 'cut' }), n))).toEqual([0, 1, 1, 0]);
    const fading = written({ enter: 'fade' });
    expect(opacity(fading, 30)).toBeGreaterThan(0);
    expect(opacity(fading, 30)).toBeLessThan(0.2);
    expect(opacity(fading, 45)).toBe(1);
    expect(opacity(fading, 89)).toBeCloseTo(opacity(fading, 30));
    const rising = [30, 33, 36, 60].map((n) => titlesAt(written({ enter: 'rise' }), n)[0]!.lines[0]![0]!.below);
    expect([...rising].sort((a, b) => b - a)).toEqual(rising);
    const growing = [30, 50, 80].map((n) => titlesAt(written({ enter: 'grow' }), n)[0]!.size);
    expect([...growing].sort((a, b) => a - b)).toEqual(growing);
  });
  test('letter by letter, word by word and from the middle come piece after piece, all of them in time', () => {
    const opacities = (more: Partial<Extract<Command, { do: 'changeTitle' }>>, frame: number): number[][] =>
      titlesAt(written(more), frame)[0]!.lines.map((line) => line.map((piece) => Math.round(100 * piece.opacity)));
    const text = (more: Partial<Extract<Command, { do: 'changeTitle' }>>): string[] =>
      titlesAt(written(more), 60)[0]!.lines.map((line) => line.map((piece) => piece.text).join('|'));
    expect(text({ enter: 'letters' })).toEqual(['K|i|t|e| |d|a|y', 'o|n| |t|h|e| |d|o|w|n']);
    expect(text({ enter: 'words' })).toEqual(['Kite |day', 'on |the |down']);
    expect(text({ enter: 'letters', text: 'drak\u030C' })).toEqual(['d|r|a|k\u030C']);
    const [first] = opacities({ enter: 'letters', text: 'kites', enterBeats: 1 }, 34);
    expect([...first!].sort((a, b) => b - a)).toEqual(first);
    expect([first![0]! > 50, first![4]]).toEqual([true, 0]);
    const [outwards] = opacities({ enter: 'middle', text: 'kites', enterBeats: 1 }, 34);
    expect([outwards![2]! > 50, outwards![0], outwards![4], outwards![1] === outwards![3]]).toEqual([true, 0, 0, true]);
    for (const enter of ['letters', 'words', 'middle'] as const)
      expect(
        opacities({ enter }, 60)
          .flat()
          .every((v) => v === 100),
      ).toBe(true);
  });
  test('end at a mark or at the next cut in place of after their beats', () => {
    const montage = written();
    const until = (to: Extract<Command, { do: 'changeTitle' }>['until']): Montage =>
      after(montage, { do: 'changeTitle', id: montage.titles[0]!.id, until: to });
    expect(place(until({ markId: beat(montage, 7) }))).toEqual([[30, 105]]);
    expect(place(after(until({ markId: beat(montage, 7) }), { do: 'moveMarks', ids: [beat(montage, 7)], by: 0.1 }))).toEqual([[30, 108]]);
    // Before its start it is as if nothing had been said; so it is with no cut left.
    expect(place(until({ markId: beat(montage, 1) }))).toEqual([[30, 90]]);
    const cut = after(montage, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
    expect(place(after(cut, { do: 'changeTitle', id: montage.titles[0]!.id, until: 'cut' }))).toEqual([[30, 60]]);
    expect(until(null).titles[0]).toEqual(montage.titles[0]);
  });
  test('stand where they are dragged, and never leave the picture', () => {
    const stand = fc.record({ x: fc.double({ min: 0, max: 1, noNaN: true }), y: fc.double({ min: 0, max: 1, noNaN: true }) });
    fc.assert(
      fc.property(stand, fc.double({ min: 0.02, max: 0.5, noNaN: true }), (at, size) => {
        const { x, y, lines, step, widest, size: tall } = titlesAt(written({ stand: at, size, enter: 'cut' }), 40)[0]!;
        const block = tall * (1 + (lines.length - 1) * step);
        expect(y - block / 2).toBeGreaterThan(-1e-6 - Math.max(0, block - 720));
        expect(y + block / 2).toBeLessThan(720 + 1e-6 + Math.max(0, block - 720));
        expect(Math.min(x, 1280 - x) * 2 + 1e-6).toBeGreaterThan(Math.min(widest, 2 * Math.min(x, 1280 - x)));
      }),
    );
    const dragged = written({ stand: { x: 0.25, y: 0.75 } });
    expect([titlesAt(dragged, 60)[0]!.x, titlesAt(dragged, 60)[0]!.y]).toEqual([320, 540]);
    expect(after(dragged, { do: 'changeTitle', id: dragged.titles[0]!.id, place: 'top' }).titles[0]!.at).toBeUndefined();
  });
  test('have any colour, spacing, outline, plate and no shadow, and lose each again', () => {
    const dressed = written({
      colour: '#c83828',
      spacing: 0.2,
      leading: 0.1,
      outline: { width: 0.05, colour: '#ffffff' },
      plate: { colour: '#102030', opacity: 0.5 },
      shadow: false,
    });
    expect(titlesAt(dressed, 60)[0]).toMatchObject({
      colour: '#c83828',
      spacing: 0.2,
      step: 1.25,
      outline: { width: 0.05 },
      plate: { opacity: 0.5 },
      shadow: false,
    });
    expect(readMontage(JSON.parse(JSON.stringify(dressed)))).toEqual(dressed);
    const bare = after(dressed, {
      do: 'changeTitle',
      id: dressed.titles[0]!.id,
      colour: 'white',
      spacing: null,
      leading: null,
      outline: null,
      plate: null,
      shadow: null,
    });
    expect(bare.titles[0]).toEqual(written().titles[0]);
    const copied = copyTitle(dressed, dressed.titles[0]!.id, beat(dressed, 8));
    expect(copied.titles[1]).toMatchObject({ text: dressed.titles[0]!.text, colour: '#c83828', from: { markId: beat(dressed, 8) } });
  });
  test('keep inside a letterbox', () => {
    const low = written({ place: 'bottom', enter: 'cut' });
    const boxed = after(low, { do: 'addLetterbox', aspect: 2.39 });
    expect(barsAround(boxed.shape, 2.39)).toEqual({ tall: 92, wide: 0 });
    expect(titlesAt(low, 40)[0]!.y - titlesAt(boxed, 40)[0]!.y).toBe(92);
    expect(drawListAt(boxed, 0).bars).toHaveLength(2);
    expect(barsAround({ width: 1280, height: 720 }, 1.5)).toEqual({ tall: 0, wide: 100 });
  });
  test('and effects are in the document as it is written and read again', () => {
    const montage = after(
      written({ colour: 'gold', enter: 'grow', size: 0.06 }),
      { do: 'addEffect', kind: 'flash', what: 'bar' },
      { do: 'toggleEffect', kind: 'dip', markId: beat(sampleMontage(8), 3), firing: [] },
    );
    const changed = after(montage, { do: 'changeEffects', ids: montage.effects.map((e) => e.id), strength: 0.3 });
    expect(readMontage(JSON.parse(JSON.stringify(changed)))).toEqual(changed);
    const old: Record<string, unknown> = { ...sampleMontage(8), version: 3 };
    for (const key of ['effects', 'titles', 'pictureFades', 'letterboxes', 'fades', 'looks', 'tables', 'moveRule']) delete old[key];
    expect(readMontage(old)).toEqual(sampleMontage(8));
    const lost = { ...changed, titles: [{ ...changed.titles[0]!, from: { markId: 'm999', time: 1 } }] };
    expect(() => readMontage(lost)).toThrow(/names a mark that is not there/);
  });
  test('without a word, or of a title that is gone, say so', () => {
    expect(() => written({ text: ' \n ' })).toThrow(/needs a word/);
    expect(() => after(sampleMontage(8), { do: 'changeTitle', id: 't9', beats: 2 })).toThrow(/no longer there/);
    const none = after(written(), { do: 'removeTitles', ids: [written().titles[0]!.id] });
    expect(none.titles).toEqual([]);
  });
  test('the picture comes out of black at the start and goes into it at the end', () => {
    const montage = after(sampleMontage(8), { do: 'setPictureFades', in: 1, out: 2 });
    const black = (n: number): number => drawListAt(montage, n).veils[0]?.opacity ?? 0;
    expect([0, 15, 30, 100, 179, 209, 239].map(black)).toEqual([1, 0.5, 0, 0, 0, 0.5, 1]);
  });
});
