import { expect, test } from '@jest/globals';
import { chmodSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { scratchFolder } from '../testing/made-media.ts';

test('a file on which the decoder crashes is said to be one, with a way out', async () => {
  const folder = scratchFolder();
  const crashing = join(folder, 'ffprobe');
  writeFileSync(crashing, '#!/bin/sh\nkill -SEGV $$\n');
  chmodSync(crashing, 0o755);
  process.env['BLUSTER_FFPROBE'] = crashing;
  const { probe } = await import('../probe/probe.ts');
  const file = join(folder, 'storm.mts');
  writeFileSync(file, Buffer.alloc(4096));
  await expect(probe(file, 'storm.mts')).rejects.toThrow('"storm.mts" cannot be read: the decoder gave up on it. Convert it to MP4');
});

test('where there is no program at all, that is what is said', async () => {
  const path = process.env['PATH'];
  process.env['PATH'] = scratchFolder();
  try {
    const { programPath } = await import('./programs.ts');
    expect(() => programPath('ffmpeg')).toThrow('there is no ffmpeg on this computer');
  } finally {
    process.env['PATH'] = path;
  }
});
