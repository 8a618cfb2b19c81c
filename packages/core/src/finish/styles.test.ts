import { describe, expect, test } from '@jest/globals';
import type { Montage } from '../document/montage.ts';
import { readMontage } from '../document/read-montage.ts';
import { sampleMontage } from '../testing/sample-montage.ts';
import { titlesAt } from './titles.ts';
import { carryOut } from '../commands/carry-out.ts';
import type { Command } from '../commands/all.ts';

const act = (m: Montage, ...commands: Command[]): Montage => commands.reduce(carryOut, m);
const title = (text: string, mark: number): ((m: Montage) => Command) => {
  return (m) => ({ do: 'addTitle', text, at: { markId: m.marks[mark]!.id }, beats: 2 });
};

/** Three titles; the first looks its own way, and its style is worn by the second. */
function styled(): Montage {
  let m = sampleMontage(20);
  for (const [n, text] of ['one', 'two', 'three'].entries()) m = act(m, title(text, 4 * n)(m));
  m = act(m, { do: 'changeTitle', id: m.titles[0]!.id, face: 'typed', size: 0.2, colour: '#aabbcc', stand: { x: 0.3, y: 0.4 } });
  m = act(m, { do: 'keepStyle', titleId: m.titles[0]!.id, name: 'Letters home' });
  return act(m, { do: 'wearStyle', ids: [m.titles[1]!.id], style: m.styles[0]!.id });
}

describe('styles of titles', () => {
  test('are worn whole, and leave words, time and place alone', () => {
    const [first, second, third] = styled().titles;
    expect(second).toMatchObject({ text: 'two', face: 'typed', size: 0.2, colour: '#aabbcc', style: first!.style });
    expect(second!.at).toBeUndefined();
    expect(second!.from).not.toEqual(first!.from);
    expect(third).not.toHaveProperty('face');
  });
  test('are changed in one place: whoever wears one changes along, nobody else', () => {
    const m = styled();
    const changed = act(m, { do: 'changeTitle', id: m.titles[1]!.id, size: 0.3, face: null });
    expect(changed.titles.map((t) => [t.size, t.face])).toEqual([
      [0.3, undefined],
      [0.3, undefined],
      [m.titles[2]!.size, undefined],
    ]);
    expect(changed.styles[0]!.look).toMatchObject({ size: 0.3 });
    // What is no part of a look is each title's own.
    const moved = act(m, { do: 'changeTitle', id: m.titles[1]!.id, text: 'deux', beats: 3, place: 'top' });
    expect(moved.titles.map((t) => t.text)).toEqual(['one', 'deux', 'three']);
    expect(moved.styles[0]).toBe(m.styles[0]);
  });
  test('taken off or away, titles keep how they look', () => {
    const m = styled();
    const off = act(m, { do: 'wearStyle', ids: [m.titles[1]!.id], style: null });
    expect(off.titles[1]).toMatchObject({ face: 'typed', size: 0.2 });
    expect(off.titles[1]).not.toHaveProperty('style');
    const away = act(m, { do: 'removeStyle', id: m.styles[0]!.id });
    expect(away.titles.map((t) => t.size)).toEqual(m.titles.map((t) => t.size));
    expect(away.titles.every((t) => t.style === undefined)).toBe(true);
  });
  test('have names of their own', () => {
    const m = styled();
    expect(() => act(m, { do: 'keepStyle', titleId: m.titles[2]!.id, name: ' Letters home ' })).toThrow(
      'There is a style "Letters home" already',
    );
    expect(() => act(m, { do: 'keepStyle', titleId: m.titles[2]!.id, name: '  ' })).toThrow('needs a name');
    expect(act(m, { do: 'renameStyle', id: m.styles[0]!.id, name: 'Post' }).styles[0]!.name).toBe('Post');
  });
});

describe('typefaces', () => {
  const own = (m: Montage): Montage =>
    act(
      m,
      { do: 'addFaces', faces: [{ assetId: 'quill', name: 'Quill' }] },
      { do: 'changeTitle', id: m.titles[0]!.id, face: 'quill', weight: 'bold' },
    );
  test('of a file are written in, and known to whoever paints', () => {
    const m = own(styled());
    expect(titlesAt(m, 10)[0]).toMatchObject({ face: 'quill', weight: 400 });
    expect(m.styles[0]!.look.face).toBe('quill');
    expect(readMontage(JSON.parse(JSON.stringify(m)))).toEqual(m);
  });
  test('taken away, titles and styles are plain', () => {
    const m = own(styled());
    const plain = act(m, { do: 'removeFace', assetId: 'quill' });
    expect(JSON.stringify([plain.titles, plain.styles, plain.faces])).not.toContain('quill');
    expect(titlesAt(plain, 10)[0]!.face).toBe('plain');
  });
  test('that are not there make a montage unreadable, and are said', () => {
    const broken = JSON.parse(JSON.stringify({ ...own(styled()), faces: [] })) as unknown;
    expect(() => readMontage(broken)).toThrow('written in a typeface that is not there');
  });
});

describe('words on marks', () => {
  const spoken = (text: string, wordsOn: 'beat' | 'bar', beats: number): Montage => {
    const m = sampleMontage(20);
    const added = act(m, { do: 'addTitle', text, at: { markId: m.marks[4]!.id }, beats });
    return act(added, { do: 'changeTitle', id: added.titles[0]!.id, enter: 'marks', wordsOn, enterBeats: 0 });
  };
  const seen = (m: Montage, frame: number): boolean[] => titlesAt(m, frame)[0]?.lines[0]!.map((piece) => piece.opacity > 0) ?? [];
  test('come one on each beat, from the first on', () => {
    const m = spoken('kites over hills', 'beat', 8);
    expect([60, 74, 75, 89, 90, 120].map((frame) => seen(m, frame))).toEqual([
      [true, false, false],
      [true, false, false],
      [true, true, false],
      [true, true, false],
      [true, true, true],
      [true, true, true],
    ]);
    expect(seen(m, 59)).toEqual([]);
  });
  test('follow marks that are moved, and other kinds of them', () => {
    const m = spoken('kites over', 'beat', 8);
    expect(seen(act(m, { do: 'moveMarks', ids: [m.marks[5]!.id], by: 0.2 }), 80)).toEqual([true, false]);
    expect([119, 120].map((frame) => seen(spoken('kites over', 'bar', 16), frame))).toEqual([
      [true, false],
      [true, true],
    ]);
  });
});
