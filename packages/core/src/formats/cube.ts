import { Refusal } from '../refusal/refusal.ts';
import type { ColourCube } from '../finish/looks/look-parts.ts';
import { TABLE_EDGE } from '../finish/tables.ts';

/** A .cube file that cannot be read, with the reason. */
export class CubeError extends Refusal {}

const LARGEST = 129;

interface Read {
  readonly title: string | null;
  readonly cube: ColourCube;
}

/**
 * Reads a lookup table from a .cube file (its specification 1.0 of 2013): three-dimensional tables, and one-dimensional ones as the
 * three-dimensional table that they amount to. Red, green and blue run from 0 to 1, or as DOMAIN_MIN and DOMAIN_MAX say.
 * @returns drawn to 17 colours along each edge
 * @throws CubeError with a sentence that says what is wrong
 */
export function readCube(text: string): Read {
  let title: string | null = null;
  let [size, flat] = [0, false];
  let [low, high] = [
    [0, 0, 0],
    [1, 1, 1],
  ];
  const rows: number[][] = [];
  for (const [n, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.trim();
    if (line === '' || line.startsWith('#')) continue;
    const [word = '', ...rest] = line.split(/\s+/);
    const numbers = rest.map(Number);
    if (word === 'TITLE') title = line.slice(5).trim().replace(/^"|"$/g, '') || null;
    else if (word === 'LUT_3D_SIZE' || word === 'LUT_1D_SIZE') {
      size = numbers[0] ?? 0;
      flat = word === 'LUT_1D_SIZE';
      const most = flat ? 65_536 : LARGEST;
      if (!Number.isInteger(size) || size < 2 || size > most)
        throw new CubeError(`Its table is said to be ${rest[0] ?? 'of no size'} along an edge; from 2 to ${most} can be read.`);
    } else if (word === 'DOMAIN_MIN') low = numbers;
    else if (word === 'DOMAIN_MAX') high = numbers;
    else if (/^[-+.\d]/.test(word)) {
      const row = [Number(word), ...numbers];
      if (row.length !== 3 || row.some((value) => !Number.isFinite(value)))
        throw new CubeError(`Line ${n + 1} should be three numbers, but is “${line.slice(0, 60)}”.`);
      if (rows.push(row) > LARGEST ** 3) throw new CubeError('It holds more colours than can be read.');
    } else if (/^[A-Z_0-9]+$/.test(word)) continue;
    else throw new CubeError(`Line ${n + 1} is no line of a .cube file: “${line.slice(0, 60)}”.`);
  }
  if (size === 0) throw new CubeError('This is no .cube file: it does not say how large its table is (LUT_3D_SIZE).');
  const due = flat ? size : size ** 3;
  if (rows.length !== due) throw new CubeError(`It should hold ${due} colours, but holds ${rows.length}.`);
  if ([...low, ...high].length !== 6 || [...low, ...high].some((v) => !Number.isFinite(v)) || low.some((v, i) => v >= high[i]!))
    throw new CubeError('Its DOMAIN_MIN and DOMAIN_MAX should be three numbers each, the second ones greater.');
  return { title, cube: drawn(rows, size, flat, low, high) };
}

/** The table at the points that are kept, between its own. */
function drawn(rows: readonly number[][], size: number, flat: boolean, low: readonly number[], high: readonly number[]): ColourCube {
  const colours = new Uint8Array(3 * TABLE_EDGE ** 3);
  const last = size - 1;
  const place = (step: number, channel: number): [number, number] => {
    const value = (step / (TABLE_EDGE - 1) - low[channel]!) / (high[channel]! - low[channel]!);
    const exact = Math.max(0, Math.min(1, value)) * last;
    const floor = Math.min(last - 1, Math.floor(exact));
    return [floor, exact - floor];
  };
  const put = (i: number, value: number): void => void (colours[i] = Math.round(255 * Math.max(0, Math.min(1, value))));
  for (let b = 0; b < TABLE_EDGE; b++)
    for (let g = 0; g < TABLE_EDGE; g++)
      for (let r = 0; r < TABLE_EDGE; r++) {
        const i = 3 * ((b * TABLE_EDGE + g) * TABLE_EDGE + r);
        const at = [place(r, 0), place(g, 1), place(b, 2)] as const;
        for (let c = 0; c < 3; c++) {
          if (flat) {
            const [floor, part] = at[c]!;
            put(i + c, rows[floor]![c]! * (1 - part) + rows[floor + 1]![c]! * part);
            continue;
          }
          let sum = 0;
          for (let corner = 0; corner < 8; corner++) {
            const steps = [corner & 1, (corner >> 1) & 1, corner >> 2];
            const weight = at.reduce((w, [, part], k) => w * (steps[k] ? part : 1 - part), 1);
            if (weight === 0) continue;
            const [x, y, z] = at.map(([floor], k) => floor + steps[k]!) as [number, number, number];
            sum += weight * rows[(z * size + y) * size + x]![c]!;
          }
          put(i + c, sum);
        }
      }
  return { size: TABLE_EDGE, colours };
}
