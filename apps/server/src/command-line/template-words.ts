import type { FillOrder, Reach } from '@bluster/core';
import { FILL_ORDERS } from '@bluster/core/fill/orders/all';
import { Refusal } from '@bluster/core/refusal/refusal';
import type { Wanted } from './film-words.ts';
import { footageFiles, isFile } from './given-files.ts';
import { number } from './usage.ts';

/** Orders in which footage fills slots without anyone choosing. */
const OFFERED: readonly FillOrder[] = FILL_ORDERS.filter((order) => order !== 'picked');
const REACHES: readonly Reach[] = ['all', 'as-long'];

/** What is said after ./bluster template TEMPLATE. */
export interface TemplateWords extends Wanted {
  readonly footage?: readonly string[];
  readonly song?: string;
  readonly length?: string;
  readonly order?: string;
  readonly seed?: string;
}

/** The same, read and looked at. */
export interface FromTemplate extends Wanted {
  /** files there are */
  readonly footage: readonly string[];
  readonly song?: string;
  readonly reach: Reach;
  readonly order: FillOrder;
  readonly seed: number | undefined;
}

function oneOf<T extends string>(name: string, value: string | undefined, all: readonly T[], usual: T): T {
  if (value === undefined) return usual;
  const found = all.find((one) => one === value);
  if (!found) throw new Refusal(`--${name} is one of ${all.join(', ')}, not "${value}".`);
  return found;
}

/** Reads what is asked for, before anything is loaded or opened for it. @throws Refusal that says what is wrong */
export async function readTemplateWords(words: TemplateWords): Promise<FromTemplate> {
  const { footage, length, order, seed, ...rest } = words;
  const read = {
    ...rest,
    order: oneOf('order', order, OFFERED, 'story'),
    reach: oneOf('length', length, REACHES, 'as-long'),
    seed: number('seed', seed),
    footage: await footageFiles(footage ?? []),
  };
  if (words.song !== undefined && !(await isFile(words.song)))
    throw new Refusal(`There is no file "${words.song}". Give the song with --song.`);
  return read;
}
