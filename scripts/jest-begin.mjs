// Unit tests start thousands of media programs from processes that have grown large: one starter for all of them. And what songs and clips
// they make is kept for those who want the same: see packages/media/src/testing/made-media.ts.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export default async function begin() {
  const { beginStarter } = await import('../packages/media/dist/program/starter.js');
  const endStarter = await beginStarter();
  const made = mkdtempSync(join(tmpdir(), 'bluster-made-'));
  process.env.BLUSTER_MADE = made;
  globalThis.endRun = () => {
    endStarter();
    rmSync(made, { recursive: true, force: true });
  };
}
