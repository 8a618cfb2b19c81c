import { describe, expect, test } from '@jest/globals';
import type { Montage } from '../document/montage.ts';
import { readMontage } from '../document/read-montage.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { drawListAt } from '../picture/draw-list.ts';
import { barsAround } from '../geometry/framing.ts';
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
    const opacity = (montage: Montage, frame: number): number => titlesAt(montage, frame)[0]?.opacity ?? 0;
    expect([29, 30, 89, 90].map((n) => opacity(written({ enter: 'cut' }), n))).toEqual([0, 1, 1, 0]);
    const fading = written({ enter: 'fade' });
    expect(opacity(fading, 30)).toBeGreaterThan(0);
    expect(opacity(fading, 30)).toBeLessThan(0.2);
    expect(opacity(fading, 45)).toBe(1);
    expect(opacity(fading, 89)).toBeCloseTo(opacity(fading, 30));
    const rising = [30, 33, 36, 60].map((n) => titlesAt(written({ enter: 'rise' }), n)[0]!.y);
    expect([...rising].sort((a, b) => b - a)).toEqual(rising);
    const growing = [30, 50, 80].map((n) => titlesAt(written({ enter: 'grow' }), n)[0]!.size);
    expect([...growing].sort((a, b) => a - b)).toEqual(growing);
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
