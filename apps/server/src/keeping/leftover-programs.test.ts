import { afterAll, expect, test } from '@jest/globals';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { endLeftovers } from './leftover-programs.ts';

const folder = mkdtempSync(join(tmpdir(), 'bluster-left-'));
const program = join(folder, 'film.process.js');
writeFileSync(program, 'console.log(process.pid); setInterval(() => {}, 1000);');
const started: number[] = [];
afterAll(() => {
  for (const pid of started)
    try {
      process.kill(pid, 'SIGKILL');
    } catch {
      // it has ended
    }
  rmSync(folder, { recursive: true, force: true });
});

/** Starts one of our own programs as a server would that works in a data folder. @param outlives whether it lost what started it */
async function begin(worksIn: string, outlives: boolean): Promise<number> {
  const env = { ...process.env, BLUSTER_WORKS_IN: worksIn };
  const options = { env, stdio: ['ignore', 'pipe', 'inherit'] as ['ignore', 'pipe', 'inherit'] };
  const child = outlives
    ? spawn('sh', ['-c', `"${process.execPath}" "${program}" &`], options)
    : spawn(process.execPath, [program], options);
  const [said] = (await once(child.stdout, 'data')) as [Buffer];
  started.push(Number(said));
  return Number(said);
}

/** Whether a process runs: one that was killed may still be waited for by whoever has it now. */
function runs(pid: number): boolean {
  try {
    return !/^State:\s+Z/m.test(readFileSync(`/proc/${pid}/status`, 'utf8'));
  } catch {
    return false;
  }
}

test('what a server before left at work in the folder is ended, and nothing else', async () => {
  const own = await begin('/a/folder', false);
  const elsewhere = await begin('/another/folder', true);
  const left = await begin('/a/folder', true);
  expect(endLeftovers('/a/folder')).toBe(1);
  while (runs(left)) await new Promise(setImmediate);
  expect([own, elsewhere].map(runs)).toEqual([true, true]);
});
