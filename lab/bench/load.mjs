// What the server does for others while fifty files come in, five films are made and ten pages are edited: how long the list of
// projects takes, how long its event loop is held, and how much memory it and its programs take.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoServer } from '../../scripts/demo-server.mjs';
import { familyMemory } from './family-memory.mjs';
import { EXPORTS, PAGES, UPLOADS } from './load-sizes.mjs';

/** Files there wait for no disk, so that writing down how long it was held holds the server up no longer. */
const MEMORY = '/dev/shm';

const later = (ms) => new Promise((done) => setTimeout(done, ms));
const percentile = (values, part) => [...values].sort((a, b) => a - b)[Math.ceil(values.length * part) - 1];

/**
 * Has a session get a third of the weight of others, where Linux shares its cores among sessions (autogroup, sched(7)): those at work stand
 * for other computers, which would take nothing of this one's cores.
 */
function standBack(leader) {
  try {
    writeFileSync(`/proc/${leader}/autogroup`, '5');
  } catch {
    // this system shares its cores otherwise
  }
}

/** Those who work with the server, in a process of their own. @returns when nothing is left to be done */
async function atWork(...args) {
  const child = spawn(process.execPath, [join(import.meta.dirname, 'at-work.mjs'), ...args], {
    detached: true,
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  standBack(child.pid);
  let said = '';
  child.stderr.on('data', (chunk) => (said += chunk));
  const [code] = await once(child, 'close');
  if (code !== 0) throw new Error(`those at work ended with ${code}: ${said}`);
}

export async function benchLoad() {
  const held = join(existsSync(MEMORY) ? MEMORY : tmpdir(), `bluster-held-${process.pid}.json`);
  const server = await demoServer({ node: ['--import', join(import.meta.dirname, 'held-loop.mjs')], env: { BLUSTER_HELD: held } });
  const { base, child, folder, project, stop } = server;
  try {
    const copies = [];
    for (let i = 0; i < PAGES; i++)
      copies.push((await (await fetch(`${base}/api/projects/${project}/duplicate`, { method: 'POST' })).json()).id);
    const before = readFileSync(held, 'utf8').split('\n').length;
    let busy = true;
    let memory = 0;
    const answers = [];
    const watching = (async () => {
      while (busy) {
        const from = performance.now();
        await (await fetch(`${base}/api/projects`)).json();
        answers.push(performance.now() - from);
        await later(50);
      }
    })();
    const weighing = (async () => {
      while (busy) {
        memory = Math.max(memory, familyMemory(child.pid));
        await later(250);
      }
    })();
    try {
      await atWork(base, project, JSON.stringify(copies));
    } finally {
      busy = false;
    }
    await Promise.all([watching, weighing]);
    const seconds = readFileSync(held, 'utf8')
      .trim()
      .split('\n')
      .slice(before)
      .map((line) => JSON.parse(line));
    // What a host of virtual machines takes away is no fault of the server's.
    const own = seconds.filter(({ stolen }) => stolen === 0);
    if (own.length === 0) throw new Error('in no second did this machine have its cores for itself: nothing can be said of the event loop');
    const middle = (of) =>
      percentile(
        of.map(({ held }) => held),
        0.5,
      );
    const most = (of, part) => Math.max(...of.map((second) => second[part]));
    const what = `${UPLOADS} uploads, ${EXPORTS} films, ${PAGES} pages`;
    return [
      { what: `${what}: list of projects, 99 of 100 of ${answers.length}`, value: percentile(answers, 0.99), unit: ' ms', limit: 250 },
      { what: 'the server and its programs: memory', value: memory / 1e6, unit: ' MB', limit: 1200 },
      { what: `event loop held, in the middle one of ${seconds.length} seconds`, value: middle(seconds), unit: ' ms' },
      { what: 'event loop held, longest', value: most(seconds, 'held'), unit: ' ms' },
      { what: `the same, in ${own.length} seconds in which no host took a core away: in the middle`, value: middle(own), unit: ' ms' },
      { what: 'longest', value: most(own, 'held'), unit: ' ms', limit: 50 },
      { what: 'in one turn of these: work of its own, longest', value: most(own, 'worked'), unit: ' ms' },
      { what: 'waiting for a core, longest', value: most(own, 'waited'), unit: ' ms' },
      { what: 'waiting for all else, longest', value: most(own, 'stood'), unit: ' ms' },
    ];
  } finally {
    await stop();
    rmSync(folder, { recursive: true, force: true });
    rmSync(held, { force: true });
  }
}
