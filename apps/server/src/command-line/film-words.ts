import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { Refusal, sizeInShape, type Shape } from '@bluster/core';
import { ExportRequest } from '@bluster/wire';
import { problemsOf } from '../http/validation.ts';
import { number } from './usage.ts';

/** What films are asked for. */
export interface Wanted {
  readonly preset?: string;
  readonly quality?: string;
  readonly shape?: string[];
  readonly side?: string;
  readonly from?: string;
  readonly to?: string;
  readonly loudness?: string;
  readonly name?: string;
  readonly out?: string;
  readonly report?: string;
}

/** The films that are asked for, one for each shape. @param length of the montage, seconds */
export function requestsOf(wanted: Wanted, own: Shape, length: number): ExportRequest[] {
  const [from, to, side] = [number('from', wanted.from), number('to', wanted.to), number('side', wanted.side)];
  const common = {
    ...(wanted.preset === undefined ? {} : { preset: wanted.preset }),
    ...(wanted.quality === undefined ? {} : { quality: wanted.quality }),
    ...(wanted.name === undefined ? {} : { name: wanted.name }),
    ...(wanted.loudness === undefined ? {} : { loudness: number('loudness', wanted.loudness) }),
    ...(from === undefined && to === undefined ? {} : { stretch: { from: from ?? 0, to: to ?? length } }),
  };
  return (wanted.shape ?? [null]).map((shape) => {
    const size = shape === null && side === undefined ? {} : { size: sizeInShape(shape, own, side ?? null) };
    const request = plainToInstance(ExportRequest, { ...common, ...size });
    const problems = problemsOf(validateSync(request));
    if (problems !== null) throw new Refusal(problems);
    return request;
  });
}

/** The smallest montage there can be: what is too large for it is too large for all. */
const SMALLEST: Shape = { width: 16, height: 16, rate: { num: 30, den: 1 } };

/** Looks at what is asked for, before anything is opened for it. @throws Refusal that says what is wrong whatever the montage is */
export function checkFilmWords({ from, to, side, ...wanted }: Wanted): void {
  for (const [name, text] of Object.entries({ from, to, side })) number(name, text);
  // How large a side may be hangs on the montage's own shape where none is named.
  const named = wanted.shape === undefined || side === undefined ? wanted : { ...wanted, side };
  requestsOf(named, SMALLEST, 0);
}
