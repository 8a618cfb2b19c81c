import { expect, test } from '@jest/globals';
import { spawn, spawnSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, readFileSync, statSync } from 'node:fs';
import { getPriority, platform, tmpdir } from 'node:os';
import { join } from 'node:path';
import { USUAL_MEMORY, guarded, standBack } from './guarded.ts';
import { onPath } from './programs.ts';

const canGuard = onPath('setpriv') !== null && onPath('prlimit') !== null;
const alive = (pid: number): boolean => {
  try {
    return !/^State:\s+Z/m.test(readFileSync(`/proc/${pid}/status`, 'utf8'));
  } catch {
    return false;
  }
};

(canGuard ? test : test.skip)('a program ends with the one that started it, though that was killed', async () => {
  const [program, words] = guarded('sleep', ['1000']);
  const script = `const { pid } = require('node:child_process').spawn(${JSON.stringify(program)}, ${JSON.stringify(words)}); console.log(pid); setInterval(() => 0, 1000);`;
  const parent = spawn('node', ['-e', script], { stdio: ['ignore', 'pipe', 'inherit'] });
  const pid = Number(await new Promise<string>((resolve) => parent.stdout.once('data', (said: Buffer) => resolve(said.toString()))));
  expect(alive(pid)).toBe(true);
  // Killed before it has become the program, it could not end with it yet.
  while (readFileSync(`/proc/${pid}/comm`, 'utf8').trim() !== 'sleep') await new Promise((later) => setTimeout(later, 5));
  parent.kill('SIGKILL');
  while (alive(pid)) await new Promise((later) => setTimeout(later, 10));
});

(canGuard ? test : test.skip)('a program gets no more memory than it is given', () => {
  const hungry = ['-e', 'const all = []; for (let i = 0; i < 40; i++) all.push(Buffer.alloc(2 ** 26, 1)); console.log(all.length)'];
  const run = (memory: number): string => {
    const [program, words] = guarded(process.execPath, hungry, { memory });
    return spawnSync(program, words, { encoding: 'utf8' }).stdout;
  };
  expect(run(64 * 2 ** 30)).toBe('40\n');
  expect(run(2 * 2 ** 30)).toBe('');
  expect(USUAL_MEMORY).toBeGreaterThan(2 ** 30);
});

(canGuard ? test : test.skip)('a program writes no larger file than it may', () => {
  const file = join(mkdtempSync(join(tmpdir(), 'bluster-writes-')), 'file');
  const write = (writes: number | undefined): number => {
    const [program, words] = guarded('head', ['-c', '300000', '/dev/zero'], { writes });
    const to = openSync(file, 'w');
    spawnSync(program, words, { stdio: ['ignore', to, 'ignore'] });
    closeSync(to);
    return statSync(file).size;
  };
  expect(write(undefined)).toBe(300_000);
  expect(write(100_000)).toBe(100_000);
});

(platform() === 'linux' ? test : test.skip)('a program stands back for what somebody waits for', () => {
  const child = spawn('sleep', ['1000']);
  expect(getPriority(child.pid)).toBe(getPriority());
  standBack(child.pid);
  expect(getPriority(child.pid)).toBe(15);
  child.kill('SIGKILL');
});
