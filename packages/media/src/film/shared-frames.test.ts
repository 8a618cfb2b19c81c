import { expect, test } from '@jest/globals';
import { SharedFrames } from './shared-frames.ts';

test('a frame that was given back is lent again, to one who asks for as many bytes', () => {
  const frames = new SharedFrames();
  const first = frames.lend(96);
  expect(first.buffer).toBeInstanceOf(SharedArrayBuffer);
  expect(frames.lend(96)).not.toBe(first);
  frames.giveBack(first);
  expect(frames.lend(48)).not.toBe(first);
  expect(frames.lend(96)).toBe(first);
});

test('no frame is lent to two: given back twice, needed by another, or not of here', () => {
  const frames = new SharedFrames();
  const [twice, shared, other] = [frames.lend(8), frames.lend(8), new Uint8Array(8)];
  frames.giveBack(twice);
  frames.giveBack(twice);
  frames.share(shared);
  frames.giveBack(shared);
  frames.share(other);
  frames.giveBack(other);
  expect(frames.lend(8)).toBe(twice);
  const [a, b] = [frames.lend(8), frames.lend(8)];
  expect(a).not.toBe(b);
  for (const one of [a, b]) expect([twice, shared, other]).not.toContain(one);
  frames.giveBack(shared);
  expect(frames.lend(8)).toBe(shared);
});
