// Stands for the computers of those who work with the server of load.mjs: node at-work.mjs BASE PROJECT COPIES, the last one a JSON list
// of projects. Files come in, films are made of the first projects, and all are edited, until nothing is left to be done.
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { carryOut, readMontage } from '../../packages/core/dist/index.js';
import { sendFile } from '../../scripts/tus-upload.mjs';
import { EXPORTS, UPLOADS } from './load-sizes.mjs';

const root = resolve(import.meta.dirname, '../..');
const SMALL = { width: 480, height: 270, rate: { num: 30, den: 1 } };
const JSON_BODY = { 'content-type': 'application/json' };
const [base, project, copies] = process.argv.slice(2, 5);

const later = (ms) => new Promise((done) => setTimeout(done, ms));
const answerOf = async (path, options) => (await fetch(`${base}/api/${path}`, options)).json();

/** What a page of the application asks for while somebody edits: files and jobs at first, then to be told what becomes of them, a save after each edit, and pieces of a preview. */
async function editing(id, until) {
  const of = `${base}/api/projects/${id}`;
  const stop = new AbortController();
  const [assets] = await Promise.all([answerOf(`projects/${id}/assets`), answerOf(`projects/${id}/jobs`)]);
  const clip = assets.find(({ kind }) => kind === 'clip');
  const stream = await fetch(`${of}/changes`, { signal: stop.signal });
  const following = (async () => {
    const news = /** @type {ReadableStream<Uint8Array>} */ (stream.body).getReader();
    while (!(await news.read()).done);
  })().catch(() => undefined);
  const loaded = await answerOf(`projects/${id}/montage`);
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

/** A film of a project that has been edited, from its order to its end. */
async function film(id) {
  while ((await answerOf(`projects/${id}/montage`)).revision < 3) await later(100);
  let job = await answerOf(`projects/${id}/exports`, { method: 'POST' });
  while (!['done', 'failed'].includes(job.state)) {
    await later(500);
    job = await answerOf(`jobs/${job.id}`);
  }
  if (job.state === 'failed') throw new Error(job.problem);
}

/** So many files, each another one: there are bytes after the film's end. */
function uploads() {
  const drum = readFileSync(join(root, 'demo/media/drum.mp4'));
  return Array.from({ length: UPLOADS }, async (_, n) => {
    const bytes = Buffer.concat([drum, Buffer.from(`kite ${n}`)]);
    const sent = await sendFile(base, { project, role: 'footage', name: `kite-${n}.mp4`, bytes });
    if (sent.status !== 200) throw new Error(`an upload ended with ${sent.status}: ${await sent.text()}`);
  });
}

async function allReady() {
  for (;;) {
    const assets = await answerOf(`projects/${project}/assets`);
    const failed = assets.find(({ state }) => state === 'failed');
    if (failed) throw new Error(failed.problem);
    if (assets.every(({ state }) => state === 'ready')) return;
    await later(500);
  }
}

let busy = true;
const edited = JSON.parse(copies);
const pages = edited.map((id) => editing(id, () => !busy));
await Promise.all([...edited.slice(0, EXPORTS).map(film), ...uploads()]);
await allReady();
busy = false;
await Promise.all(pages);
