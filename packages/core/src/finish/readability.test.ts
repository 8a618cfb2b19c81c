import { describe, expect, test } from '@jest/globals';
import { contrast, hardToRead, lightness, type Behind } from './readability.ts';
import type { TitleItem } from './titles.ts';

const shape = { width: 160, height: 90 };
const item: TitleItem = {
  titleId: 't1',
  lines: [[{ text: 'kites', opacity: 1, below: 0, scale: 1 }]],
  x: 80,
  y: 45,
  size: 30,
  widest: 140,
  spacing: 0,
  step: 1.2,
  face: 'plain',
  weight: 800,
  colour: '#ffffff',
  outline: null,
  plate: null,
  shadow: false,
};
/** A picture whose left half has one colour, and whose right half another. */
function behind(left: number, right = left): Behind {
  const data = new Uint8Array(4 * 32 * 18);
  for (let i = 0; i < 32 * 18; i++) data.set([...Array<number>(3).fill(i % 32 < 16 ? left : right), 255], 4 * i);
  return { width: 32, height: 18, data };
}

describe('titles that are hard to read', () => {
  test('lightness and contrast are those of WCAG', () => {
    expect(contrast(lightness([255, 255, 255]), lightness([0, 0, 0]))).toBeCloseTo(21, 6);
    expect(contrast(lightness([119, 119, 119]), 1)).toBeCloseTo(4.48, 1);
    expect(contrast(0.3, 0.3)).toBe(1);
  });
  test('white on white cannot be read, on black it can, and over both by half', () => {
    expect(hardToRead(item, behind(255), shape)).toBe(1);
    expect(hardToRead(item, behind(0), shape)).toBe(0);
    expect(hardToRead(item, behind(255, 0), shape)).toBeCloseTo(0.5, 1);
  });
  test('a plate, an outline and a shadow help as far as they go', () => {
    expect(hardToRead({ ...item, plate: { colour: '#000000', opacity: 0.8 } }, behind(255), shape)).toBe(0);
    expect(hardToRead({ ...item, plate: { colour: '#ffffff', opacity: 0.8 } }, behind(0), shape)).toBe(1);
    expect(hardToRead({ ...item, outline: { width: 0.05, colour: '#102030' } }, behind(255), shape)).toBe(0);
    expect(hardToRead({ ...item, outline: { width: 0.05, colour: '#f0f0f0' } }, behind(255), shape)).toBe(1);
    expect(hardToRead({ ...item, shadow: true }, behind(170), shape)).toBe(0);
    expect(hardToRead(item, behind(170), shape)).toBe(1);
  });
  test('a title at the edge is measured as far as the picture goes', () => {
    expect(hardToRead({ ...item, x: 159, y: 89 }, behind(255), shape)).toBe(1);
  });
});
