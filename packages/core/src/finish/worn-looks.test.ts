import fc from 'fast-check';
import { describe, expect, test } from '@jest/globals';
import type { Command } from '../commands/all.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Montage } from '../document/montage.ts';
import { readMontage } from '../document/read-montage.ts';
import { readCube } from '../formats/cube.ts';
import { colourChange } from '../picture/colour-change.ts';
import { drawListAt } from '../picture/draw-list.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { barsAt } from './letterbox.ts';
import { PLAIN_LOOK, together } from './looks/look-parts.ts';
import { LOOKS, LOOK_KINDS } from './looks/all.ts';
import { colourStats, looksBetween } from './matching-looks.ts';
import { tableNamed, tableText } from './tables.ts';
import { lookAt } from './worn-looks.ts';

const after = (montage: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, montage);
const beat = (m: Montage, n: number): { markId: string } => ({ markId: m.marks[n]!.id });
const none = (): null => null;
const rgb = (r: number, g: number, b: number): number => (r << 16) | (g << 8) | b;
const parts = (colour: number): number[] => [colour >> 16, (colour >> 8) & 255, colour & 255];

describe('looks', () => {
  test('of all pictures come and go over beats, from mark to mark, and go with their marks', () => {
    const one = sampleMontage(8);
    const m = after(one, { do: 'addLook', kind: 'blur', strength: 1, span: { from: beat(one, 2), to: beat(one, 6), rise: 1, fall: 2 } });
    const blur = (of: Montage, frame: number): number => lookAt(of, frame)?.blur ?? 0;
    // Marks every fifteen frames: there from 30 to 90, whole from 45 to 60.
    expect([29, 45, 59, 90].map((n) => blur(m, n))).toEqual([0, 1, 1, 0]);
    expect(blur(m, 30)).toBeGreaterThan(0);
    const rising = Array.from({ length: 15 }, (_, i) => blur(m, 30 + i));
    expect([...rising].sort((a, b) => a - b)).toEqual(rising);
    expect(blur(after(m, { do: 'shiftAllMarks', by: 0.4 }), 41)).toBe(0);
    expect(blur(after(m, { do: 'shiftAllMarks', by: 0.4 }), 70)).toBe(1);
    const whole = after(m, { do: 'changeLook', id: m.looks[0]!.id, span: null });
    expect([0, 239].map((n) => blur(whole, n))).toEqual([1, 1]);
  });
  test('of a section are seen while it is heard, and sleep when it is cut out', () => {
    const sections = {
      do: 'takeMarking',
      marking: {
        marks: [],
        sections: [
          { from: 0, name: 'A' },
          { from: 4, name: 'B' },
        ],
      },
    } as const;
    const one = after(sampleMontage(8), sections);
    const m = after(one, { do: 'addLook', kind: 'grey', strength: 1, section: one.song!.sections[1]!.id });
    expect([0, 119, 120, 239].map((n) => lookAt(m, n)?.saturation ?? 1)).toEqual([1, 1, 0, 0]);
    const short = after(m, { do: 'setSongRange', pieces: [{ from: 0, to: 3 }] });
    expect(lookAt(short, 20)).toBeNull();
  });
  test('that would end before they begin are refused with a sentence', () => {
    const one = sampleMontage(8);
    expect(() => after(one, { do: 'addFade', colour: '#000000', span: { from: beat(one, 6), to: beat(one, 2) } })).toThrow(
      /end before it begins/,
    );
  });
  test('of every kind do nothing at no strength, and several are seen together', () => {
    for (const kind of LOOK_KINDS) expect(together(PLAIN_LOOK, LOOKS[kind].parts(0, null))).toEqual(PLAIN_LOOK);
    const both = together(together(PLAIN_LOOK, { exposure: 1, vignette: 0.5 }), { exposure: -0.25, vignette: 0.5 });
    expect([both.exposure, both.vignette]).toEqual([0.75, 0.75]);
  });
  test('a letterbox opens and closes over beats, above and below or at the sides', () => {
    const one = sampleMontage(8);
    const m = after(one, { do: 'addLetterbox', aspect: 2, span: { from: beat(one, 2), to: beat(one, 6), rise: 2, fall: 0 } });
    expect([29, 60, 89, 90].map((n) => barsAt(m, n)[0]?.height ?? 0)).toEqual([0, 40, 40, 0]);
    const half = barsAt(m, 44)[0]!.height;
    expect(half > 10 && half < 30 && half % 2 === 0).toBe(true);
    expect(barsAt(after(one, { do: 'addLetterbox', aspect: 1 }), 0)).toEqual([
      { x: 0, y: 0, width: 280, height: 720 },
      { x: 1000, y: 0, width: 280, height: 720 },
    ]);
  });
  test('a fade covers the picture with its colour between its moments', () => {
    const one = sampleMontage(8);
    const m = after(one, { do: 'addFade', colour: '#284060', span: { from: beat(one, 2), to: beat(one, 6), rise: 1, fall: 1 } });
    const veil = (n: number): unknown => drawListAt(m, n).veils[0] ?? null;
    expect([29, 50, 90].map(veil)).toEqual([null, { colour: '#284060', opacity: 1 }, null]);
  });
});

describe('changes of colour', () => {
  test('have known answers', () => {
    const change = (look: Partial<typeof PLAIN_LOOK>): ((r: number, g: number, b: number) => number[]) => {
      const of = colourChange({ ...PLAIN_LOOK, ...look }, none);
      return (r, g, b) => parts(of(rgb(r, g, b)));
    };
    expect(change({ exposure: 1 })(30, 60, 200)).toEqual([60, 120, 255]);
    expect(change({ contrast: 2 })(127, 160, 20)).toEqual([127, 193, 0]);
    const grey = change({ saturation: 0 })(200, 100, 50);
    expect(grey).toEqual([118, 118, 118]);
    expect(change({ warmth: 1 })(100, 100, 100)).toEqual([118, 102, 72]);
    expect(change({ lift: 1 })(0, 255, 7)).toEqual([82, 84, 92]);
    expect(change({})(1, 2, 3)).toEqual([1, 2, 3]);
  });
  test('keep grey grey, whatever is done to contrast, exposure and colour', () => {
    const amount = fc.double({ min: 0, max: 2, noNaN: true });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 255 }), amount, amount, amount, (level, contrast, saturation, exposure) => {
        const [r, g, b] = parts(colourChange({ ...PLAIN_LOOK, contrast, saturation, exposure }, none)(rgb(level, level, level)));
        expect(Math.max(r!, g!, b!) - Math.min(r!, g!, b!)).toBeLessThanOrEqual(1);
      }),
    );
  });
  test('by a table that changes nothing change nothing; by one that swaps red and blue, swap them; half of it, half', () => {
    const cube = (of: (r: number, g: number, b: number) => number[]): string =>
      ['LUT_3D_SIZE 2', ...[0, 1].flatMap((b) => [0, 1].flatMap((g) => [0, 1].map((r) => of(r, g, b).join(' '))))].join('\n');
    const same = readCube(cube((r, g, b) => [r, g, b])).cube;
    const swap = readCube(cube((r, g, b) => [b, g, r])).cube;
    const look = (part: number): typeof PLAIN_LOOK => ({ ...PLAIN_LOOK, tables: [{ id: 't', part }] });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 0xffffff }), (colour) => {
        const [r, g, b] = parts(colour);
        const near = (found: number, wanted: number[]): void =>
          parts(found).forEach((value, i) => expect(Math.abs(value - wanted[i]!)).toBeLessThanOrEqual(2));
        near(colourChange(look(1), () => same)(colour), [r!, g!, b!]);
        near(colourChange(look(1), () => swap)(colour), [b!, g!, r!]);
        near(colourChange(look(0.5), () => swap)(colour), [(r! + b!) / 2, g!, (r! + b!) / 2]);
      }),
    );
    const m = after(sampleMontage(8), { do: 'addTable', name: 'swap', colours: tableText(swap) });
    expect(tableNamed(readMontage(JSON.parse(JSON.stringify(m))), m.tables[0]!.id)).toEqual(swap);
  });
  test('between two pictures bring the one near to the other', () => {
    const picture = (of: (i: number) => number[]): number[] => Array.from({ length: 64 }, (_, i) => [...of(i), 255]).flat();
    const dark = picture((i) => [45 + i, 48 + i, 54 + i]);
    const warm = picture((i) => [110 + i, 104 + i, 90 + i]);
    const looks = looksBetween(colourStats(dark), colourStats(warm));
    const look = looks.reduce((all, { kind, strength }) => together(all, LOOKS[kind].parts(strength, null)), PLAIN_LOOK);
    const change = colourChange(look, none);
    const changed = picture((i) => parts(change(rgb(45 + i, 48 + i, 54 + i))));
    const [before, now, wanted] = [dark, changed, warm].map(colourStats) as [
      ReturnType<typeof colourStats>,
      ReturnType<typeof colourStats>,
      ReturnType<typeof colourStats>,
    ];
    for (const key of ['brightness', 'warmth'] as const)
      expect(Math.abs(now[key] - wanted[key])).toBeLessThan(0.4 * Math.abs(before[key] - wanted[key]));
    expect(looksBetween(wanted, wanted)).toEqual([]);
  });
});

describe('.cube files', () => {
  test.each([
    ['nothing', '', /does not say how large/],
    ['words', 'kites in the wind', /no line of a .cube file/],
    ['a table cut short', 'LUT_3D_SIZE 2\n0 0 0\n', /should hold 8 colours, but holds 1/],
    ['a row that is no colour', 'LUT_3D_SIZE 2\n0 0\n', /Line 2 should be three numbers/],
    ['too large a size', 'LUT_3D_SIZE 999\n', /from 2 to 129/],
    ['a domain that is upside down', 'LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\nDOMAIN_MAX 0 0 0\n0 0 0\n1 1 1\n', /DOMAIN_MIN/],
  ])('that hold %s are refused with a sentence', (_, text, sentence) => {
    expect(() => readCube(text)).toThrow(sentence);
  });
  test('with one dimension, comments, a title and another domain are read', () => {
    const { title, cube } = readCube('# made on the hill\nTITLE "Evening"\nLUT_1D_SIZE 3\nDOMAIN_MAX 1 1 1\n0 0 0\n0.25 0.5 0.75\n1 1 1\n');
    expect([title, cube.size]).toEqual(['Evening', 17]);
    const middle = 3 * ((8 * 17 + 8) * 17 + 8);
    expect([...cube.colours.slice(middle, middle + 3)]).toEqual([64, 128, 191]);
  });
  test('any text is read or refused, never more', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        try {
          readCube(`LUT_3D_SIZE 2\n${text}`);
        } catch (problem) {
          expect((problem as Error).message).toMatch(/[.]$/);
        }
      }),
    );
  });
});
