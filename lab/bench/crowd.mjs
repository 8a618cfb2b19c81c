// A crowded project: the demo's clips and photos 500 times over under ids of their own, and a song of 1,000 seconds with
// 2,000 slots. A stand-in in front of a real server answers for the ids that the server does not know.
import { there } from '../../scripts/there.mjs';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { createServer, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as core from '../../packages/core/dist/index.js';
import { demoServer } from '../../scripts/demo-server.mjs';

const BEATS = 2000;
const ITEMS = 500;
const SONG = 'song-of-the-crowd';

/** 1,000 seconds of a bass drum at every second beat, in the form in which the server keeps songs. */
function longSong() {
  const path = join(mkdtempSync(join(tmpdir(), 'bluster-crowd-')), 'song.wav');
  const drum = String.raw`0.8*exp(-18*mod(t\,0.5))*sin(2*PI*62*mod(t\,0.5))`;
  const input = ['-f', 'lavfi', '-i', `aevalsrc=${drum}|${drum}:s=44100:d=${BEATS / 2}`];
  execFileSync('ffmpeg', ['-v', 'error', ...input, '-fflags', '+bitexact', '-flags:a', '+bitexact', path]);
  return readFileSync(path);
}

/** The demo's footage again and again. @returns footage of a montage, and the assets the page asks for */
function crowd(assets) {
  const real = assets.filter((a) => a.kind === 'clip' || a.kind === 'photo');
  const all = Array.from({ length: ITEMS }, (_, i) => {
    const asset = real[i % real.length];
    const name = asset.name.replace(/(\.\w+)$/, `-${i}$1`);
    return { ...asset, id: `crowd-${i}--${asset.id}`, name };
  });
  const items = all.map(({ id, name, kind, info }) => ({
    assetId: id,
    kind,
    name,
    width: info.width,
    height: info.height,
    rate: info.rate ?? { num: 30, den: 1 },
    frames: info.frames ?? 1,
    hasSound: info.hasSound ?? false,
    ...core.UNDESCRIBED,
    selects: [],
  }));
  return { all, items };
}

function crowdedMontage(items) {
  let montage = core.carryOut(core.emptyMontage(), { do: 'setSong', assetId: SONG, name: 'crowd.mp3', length: BEATS / 2 });
  montage = core.carryOut(montage, { do: 'takeBeatTimes', times: Array.from({ length: BEATS }, (_, i) => i / 2), metre: 4 });
  montage = core.carryOut(montage, { do: 'addFootage', items });
  montage = core.carryOut(montage, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 1 } });
  return core.carryOut(montage, { do: 'fill', options: core.FILL_DEFAULTS });
}

/** Starts the crowded project. @returns where its views are, how its montage becomes another one, and how to end it */
export async function crowdedServer() {
  const demo = await demoServer();
  const at = new URL(demo.base);
  const list = await (await fetch(`${demo.base}/api/projects/${demo.project}/assets`)).json();
  const { all, items } = crowd(list);
  const song = { ...list.find((a) => a.kind === 'song'), id: SONG, name: 'crowd.mp3' };
  const sound = longSong();
  let revision = 1;
  let document = crowdedMontage(items);
  const json = (reply, body) => reply.setHeader('content-type', 'application/json').end(JSON.stringify(body));
  const answers = new Map([
    [`/api/projects/${demo.project}/assets`, (_, reply) => json(reply, [song, ...all])],
    [`/api/assets/${SONG}/sound`, (_, reply) => reply.setHeader('content-type', 'audio/wav').end(sound)],
    [
      `/api/projects/${demo.project}/montage`,
      (ask, reply) => {
        if (ask.method === 'PUT') revision++;
        ask.resume();
        json(reply, { revision, savedAt: Date.now(), document });
      },
    ],
  ]);
  const server = createServer((ask, reply) => {
    const answer = answers.get(there(ask.url));
    if (answer) return answer(ask, reply);
    const path = there(ask.url).replace(/crowd-\d+--/g, '');
    // The server answers its own pages only.
    const headers = { ...ask.headers, host: at.host };
    delete headers.origin;
    const on = request({ host: at.hostname, port: at.port, path, method: ask.method, headers }, (got) => {
      reply.writeHead(there(got.statusCode), got.headers);
      got.pipe(reply);
    });
    on.on('error', () => reply.destroy());
    ask.pipe(on);
  });
  await new Promise((ready) => void server.listen(0, '127.0.0.1', () => ready(undefined)));
  const stop = () => {
    server.close();
    server.closeAllConnections();
    void demo.stop();
  };
  const { port } = /** @type {import('node:net').AddressInfo} */ (server.address());
  const change = (into) => {
    document = into(document);
    revision++;
  };
  return { base: `http://127.0.0.1:${port}/projects/${demo.project}`, change, stop };
}
