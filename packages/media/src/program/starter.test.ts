import { afterAll, beforeAll, expect, jest, test } from '@jest/globals';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import type { Readable } from 'node:stream';
import { guarded } from './guarded.ts';
import { run } from './run.ts';
import { beginStarter, startElsewhere, type Program } from './starter.ts';

jest.setTimeout(30_000);
let end: () => void;
beforeAll(async () => (end = await beginStarter()));
afterAll(() => end());

const sh = (script: string): Program => startElsewhere({ program: 'sh', words: ['-c', script], env: process.env, folder: '/' })!;
const heard = async (stream: Readable): Promise<string> => {
  let all = '';
  for await (const chunk of stream) all += String(chunk);
  return all;
};
/** What the kernel calls a process; null where it has ended. */
const named = (pid: number): string | null => {
  try {
    const status = readFileSync(`/proc/${pid}/status`, 'utf8');
    return /^State:\s+Z/m.test(status) ? null : /^Name:\s+(.*)$/m.exec(status)![1]!;
  } catch {
    return null;
  }
};
const gone = async (pid: number): Promise<void> => {
  while (named(pid) !== null) await new Promise((later) => setTimeout(later, 5));
};
/** Processes that were started with these words among theirs. */
const startedWith = (word: string): number[] =>
  readdirSync('/proc')
    .map(Number)
    .filter((pid) => {
      try {
        return Number.isInteger(pid) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0').includes(word);
      } catch {
        return false;
      }
    });

test('what a program writes comes whole on both streams, and how it ended', async () => {
  const program = sh('head -c 3000000 /dev/zero | tr "\\0" k; echo amiss >&2; exit 3');
  const closed = once(program, 'close');
  const [out, err] = await Promise.all([heard(program.stdout!), heard(program.stderr!)]);
  expect([out.length, out.replaceAll('k', ''), err]).toEqual([3_000_000, '', 'amiss\n']);
  expect(await closed).toEqual([3, null]);
});

test('many at once do not get each other’s output', async () => {
  const said = await Promise.all(
    Array.from({ length: 20 }, async (_, i) => {
      const program = sh(`echo ${i}; echo -${i} >&2`);
      return Promise.all([heard(program.stdout!), heard(program.stderr!)]);
    }),
  );
  expect(said).toEqual(Array.from({ length: 20 }, (_, i) => [`${i}\n`, `-${i}\n`]));
});

test('a program that is called off ends, and so does one that nobody reads from', async () => {
  for (const write of ['sleep 1000', 'cat /dev/zero']) {
    const program = sh(`echo $$ >&2; exec ${write}`);
    const pid = Number(String((await once(program.stderr!, 'data'))[0]));
    expect(named(pid)).not.toBeNull();
    program.kill('SIGKILL');
    await gone(pid);
  }
});

test('one that is called off before it was started ends all the same', async () => {
  const program = sh('sleep 1000');
  program.stdout!.resume();
  program.stderr!.resume();
  const closed = once(program, 'close');
  program.kill('SIGKILL');
  expect(await closed).toEqual([null, 'SIGKILL']);
});

test('one that is not there is said to be so', async () => {
  const program = startElsewhere({ program: '/no/such/program', words: [], env: {}, folder: '/' })!;
  const said = once(program, 'error') as Promise<[Error]>;
  program.stdout!.resume();
  program.stderr!.resume();
  expect((await said)[0].message).toMatch(/ENOENT/);
});

test('an order that makes no sense ends no other program', async () => {
  const other = sh('sleep 0.3; echo done');
  const none = startElsewhere({ program: 'sh', words: ['-c', 'echo \0'], env: {}, folder: '/' })!;
  const said = once(none, 'error') as Promise<[Error]>;
  none.stdout!.resume();
  none.stderr!.resume();
  expect((await said)[0].message).toMatch(/null bytes/);
  expect(await heard(other.stdout!)).toBe('done\n');
});

test('a starter that was killed is replaced', async () => {
  const place = process.env['BLUSTER_STARTER']!;
  const [before] = startedWith(place);
  process.kill(before!, 'SIGKILL');
  await gone(before!);
  while (startedWith(place).length === 0 || !existsSync(place)) await new Promise((later) => setTimeout(later, 5));
  const version = async (): Promise<string> => String(await run('ffprobe', ['-version']));
  // The socket of the one that was killed is there until the new one listens.
  let said = '';
  while (said === '') said = await version().catch(() => '');
  expect(said).toMatch(/^ffprobe version/);
});

test('programs end with the process that wanted them, though that was killed', async () => {
  const starter = resolve(import.meta.dirname, '../../dist/program/starter.js');
  const [program, words] = guarded('sh', ['-c', 'echo $$; exec sleep 1000']);
  const script = `import { beginStarter, startElsewhere } from ${JSON.stringify(starter)};
    await beginStarter();
    const order = { program: ${JSON.stringify(program)}, words: ${JSON.stringify(words)}, env: process.env, folder: '/' };
    startElsewhere(order).stdout.pipe(process.stdout);
    console.error(process.env.BLUSTER_STARTER);`;
  const parent = spawn(process.execPath, ['--input-type=module', '-e', script], { stdio: ['ignore', 'pipe', 'pipe'] });
  const [[place], [said]] = (await Promise.all([once(parent.stderr, 'data'), once(parent.stdout, 'data')])) as [[Buffer], [Buffer]];
  const pid = Number(String(said));
  const [own] = startedWith(String(place).trim());
  expect([named(pid), named(own!)]).not.toContain(null);
  parent.kill('SIGKILL');
  await Promise.all([once(parent, 'exit'), gone(pid), gone(own!)]);
  // What it left on the disk the next one takes away.
  (await beginStarter())();
  expect(existsSync(join(String(place).trim(), '..'))).toBe(false);
});
