import { expect, test } from '@jest/globals';
import type { Worker } from 'node:worker_threads';
import { FrameComposer } from './frame-composer.ts';

const SIZE = { width: 32, height: 32 };
const plain = { camera: null, veils: [], bars: [], titles: [] };
const grey = { picture: new Uint8Array(32 * 32 * 1.5).fill(128), opacity: 1 };
const threadOf = (composer: FrameComposer): Worker => (composer as unknown as { worker: Worker }).worker;

test('a thread that dies between two frames ends the film with a reason, and nothing else', async () => {
  const composer = new FrameComposer(SIZE);
  expect(await composer.compose([grey], plain)).toEqual(grey.picture);
  await threadOf(composer).terminate();
  await expect(composer.compose([grey], plain)).rejects.toThrow(/ended too soon/);
  await composer.close();
});

test('a thread that dies over a frame says what was wrong', async () => {
  const composer = new FrameComposer(SIZE);
  const broken = { ...plain, veils: [null as never] };
  await expect(composer.compose([grey], broken)).rejects.toThrow(/null/);
  await expect(composer.compose([grey], plain)).rejects.toThrow();
  await composer.close();
});
