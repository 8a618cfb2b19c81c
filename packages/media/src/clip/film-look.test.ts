import { expect, jest, test } from '@jest/globals';
import { readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { scratchFolder } from '../testing/made-media.ts';
import { lookAtFilm } from './film-look.ts';
import { probe } from '../probe/probe.ts';
import { CancelledError } from '../program/run.ts';

jest.setTimeout(240_000);
const demo = resolve(import.meta.dirname, '../../../../demo/media');
const scratch = scratchFolder();

/** The frames where the demo's clips were painted to act: lab/demo/src/clips.ts, its seconds times each clip's rate. */
const ACTIONS: Readonly<Record<string, readonly number[]>> = {
  'launch-line': [72],
  'red-delta': [90],
  'crowd-hill': [60, 120, 180],
  'box-kite': [78],
  'tail-close': [93],
  drum: [45, 75, 105],
  windsock: [66],
  'reel-hands': [90],
  dive: [60],
  'kids-run': [75],
  'dusk-wide': [120],
  'cloud-race': [90],
  'two-cross': [50],
  'flag-row': [75],
  marshal: [36],
  snap: [30],
};

test("nine of ten of the demo's clips have their action among the first three proposals, within two frames", async () => {
  const names = readdirSync(demo).filter((name) => name.endsWith('.mp4'));
  expect(names.map((name) => name.slice(0, -4)).sort()).toEqual(Object.keys(ACTIONS).sort());
  const missed: string[] = [];
  for (const name of names) {
    const path = join(demo, name);
    const { summary } = await lookAtFilm(path, join(scratch, 'strip.jpg'), await probe(path, name));
    const first = summary.hits.slice(0, 3);
    const actions = ACTIONS[name.slice(0, -4)]!;
    if (!first.some((hit) => actions.some((n) => Math.abs(hit.frame - n) <= 2))) missed.push(name);
    expect(summary.changes).toEqual([]);
  }
  expect(missed.length).toBeLessThanOrEqual(1);
});

test('looking can be called off, and what was called off before does not begin', async () => {
  const path = join(demo, 'flag-row.mp4');
  const media = await probe(path, 'flag-row.mp4');
  const stop = new AbortController();
  const looked = lookAtFilm(path, join(scratch, 'strip2.jpg'), media, { signal: stop.signal, onSeconds: () => stop.abort() });
  await expect(looked).rejects.toThrow(CancelledError);
  await expect(lookAtFilm(path, join(scratch, 'strip3.jpg'), media, { signal: stop.signal })).rejects.toThrow(CancelledError);
  // The thread that was called off is none the worse for it.
  const short = join(demo, 'snap.mp4');
  const { summary } = await lookAtFilm(short, join(scratch, 'strip4.jpg'), await probe(short, 'snap.mp4'));
  expect(summary.frames).toBe(60);
});
