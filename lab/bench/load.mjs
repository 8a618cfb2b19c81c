// What the server does for others while fifty files come in, five films are made and ten pages are edited: how long the list of
// projects takes, how long its event loop is held, and how much memory it and its programs take.
import { readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { carryOut, readMontage } from '../../packages/core/dist/index.js';
import { demoServer } from '../../scripts/demo-server.mjs';
import { sendFile } from '../../scripts/tus-upload.mjs';
import { familyMemory } from './family-memory.mjs';

const root = resolve(import.meta.dirname, '../..');
const UPLOADS = 50;
const EXPORTS = 5;
const PAGES = 10;
const SMALL = { width: 480, height: 270, rate: { num: 30, den: 1 } };
const JSON_BODY = { 'content-type': 'application/json' };

const later = (ms) => new Promise((done) => setTimeout(done, ms));
const percentile = (values, part) => [...values].sort((a, b) => a - b)[Math.ceil(values.length * part) - 1];

/** What a page of the application asks for while somebody edits: files and jobs at first, then to be told what becomes of them, a save after each edit, and pieces of a preview. */
async function editing(base, project, until) {
  const of = `${base}/api/projects/${project}`;
  const stop = new AbortController();
  const fetchAll = (what) => Promise.all(what.map(async (one) => (await fetch(`${of}/${one}`)).json()));
  const [assets] = await fetchAll(['assets', 'jobs']);
  const clip = assets.find(({ kind }) => kind === 'clip');
  const stream = await fetch(`${of}/changes`, { signal: stop.signal });
  const following = (async () => {
    const news = /** @type {ReadableStream<Uint8Array>} */ (stream.body).getReader();
    while (!(await news.read()).done);
  })().catch(() => undefined);
  const loaded = await (await fetch(`${of}/montage`)).json();
  const document = carryOut(readMontage(loaded.document), { do: 'setShape', shape: SMALL });
  let { revision } = loaded;
  while (!until()) {
    const body = JSON.stringify({ revision, document });
    const saved = await fetch(`${of}/montage`, { method: 'PUT', headers: JSON_BODY, body });
    if (!saved.ok) throw new Error(`a save ended with ${saved.status}: ${await saved.text()}`);
    ({ revision } = await saved.json());
    await (await fetch(`${base}/api/assets/${clip.id}/proxy`, { headers: { range: 'bytes=0-65535' } })).arrayBuffer();
    await later(1000);
  }
  stop.abort();
  await following;
}

export async function benchLoad() {
  const held = join(tmpdir(), `bluster-held-${process.pid}.json`);
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
    const pages = copies.map((id) => editing(base, id, () => !busy));
    const film = readFileSync(join(root, 'demo/media/drum.mp4'));
    const exports = copies.slice(0, EXPORTS).map(async (id) => {
      while ((await (await fetch(`${base}/api/projects/${id}/montage`)).json()).revision < 3) await later(100);
      let job = await (await fetch(`${base}/api/projects/${id}/exports`, { method: 'POST' })).json();
      while (!['done', 'failed'].includes(job.state)) {
        await later(500);
        job = await (await fetch(`${base}/api/jobs/${job.id}`)).json();
      }
      if (job.state === 'failed') throw new Error(job.problem);
    });
    const uploads = Array.from({ length: UPLOADS }, async (_, n) => {
      // Bytes after the film's end make each file another one.
      const bytes = Buffer.concat([film, Buffer.from(`kite ${n}`)]);
      const sent = await sendFile(base, { project, role: 'footage', name: `kite-${n}.mp4`, bytes });
      if (sent.status !== 200) throw new Error(`an upload ended with ${sent.status}: ${await sent.text()}`);
    });
    try {
      await Promise.all([...exports, ...uploads]);
      for (;;) {
        const assets = await (await fetch(`${base}/api/projects/${project}/assets`)).json();
        if (assets.some((a) => a.state === 'failed')) throw new Error(assets.find((a) => a.state === 'failed').problem);
        if (assets.every((a) => a.state === 'ready')) break;
        await later(500);
      }
    } finally {
      busy = false;
    }
    await Promise.all([watching, weighing, ...pages]);
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
