import { expect, test } from '@jest/globals';
import type { Worker } from 'node:worker_threads';
import type { ComposedLayer } from './compose-frame.ts';
import { FrameComposer } from './frame-composer.ts';

const SIZE = { width: 32, height: 32 };
const plain = { camera: null, mirror: null, look: null, seed: 0, veils: [], bars: [], titles: [] };
const grey = new Uint8Array(32 * 32 * 1.5).fill(128);
const room = (): Uint8Array => new Uint8Array(new SharedArrayBuffer(grey.length));
const layer: ComposedLayer = {
  pictures: [{ picture: grey, size: SIZE, placed: null, opacity: 1, blur: 0 }],
  ground: '#000000',
  opacity: 1,
  camera: null,
  within: null,
  look: null,
};
const threadOf = (composer: FrameComposer): Worker => (composer as unknown as { worker: Worker }).worker;

test('a thread that dies between two frames ends the film with a reason, and nothing else', async () => {
  const composer = new FrameComposer(SIZE);
  expect(await composer.compose([layer], plain, room())).toEqual(grey);
  await threadOf(composer).terminate();
  await expect(composer.compose([layer], plain, room())).rejects.toThrow(/ended too soon/);
  await composer.close();
});

test('a thread that dies over a frame says what was wrong', async () => {
  const composer = new FrameComposer(SIZE);
  const broken = { ...plain, veils: [null as never] };
  await expect(composer.compose([layer], broken, room())).rejects.toThrow(/null/);
  await expect(composer.compose([layer], plain, room())).rejects.toThrow();
  await composer.close();
});
