import { spawn } from 'node:child_process';
import { isDeepStrictEqual } from 'node:util';
import { join, resolve } from 'node:path';
import { carryOut, readMontage } from '../../../packages/core/dist/index.js';
import { ownServer } from '../../../scripts/own-server.mjs';
import { sendFile } from '../../../scripts/tus-upload.mjs';
import { ask, later, mustAsk } from '../asking.mjs';
import { withSong } from '../ledger.mjs';
import { Broken } from '../tally.mjs';
import { doctorSilent, idle } from '../whole.mjs';

const root = resolve(import.meta.dirname, '../../..');
const TABS = 4;

/** Several tabs edit one project, while other servers try to take the folder. */
export const tabsAndServers = {
  name: 'tabs and servers',
  async run({ random, material, folder, over, tally }) {
    const server = await ownServer({ folder });
    const { base } = server;
    const { id } = await mustAsk(base, 'POST', '/api/projects', { name: 'Shared' });
    const route = `/api/projects/${id}/montage`;
    await mustAsk(base, 'PUT', route, { revision: 1, document: withSong() });
    /** every document that was acknowledged or kept, by its titles */
    const mine = new Set();
    let busy = true;
    const tab = async (n) => {
      let { revision, document } = await mustAsk(base, 'GET', route);
      for (let i = 0; busy; i++) {
        const text = `tab ${n}, edit ${i}`;
        const titles = document.titles.length > 6 ? { ...document, titles: document.titles.slice(1) } : document;
        const edited = carryOut(readMontage(titles), /** @type {never} */ ({ do: 'addTitle', text, at: { time: 0 }, beats: 1 }));
        const { status, answer } = await ask(base, 'PUT', route, { revision, document: edited });
        if (status === 200) {
          if (answer.revision !== revision + 1) throw new Broken('a save was acknowledged under another number than the next');
          ({ revision } = answer);
          document = JSON.parse(JSON.stringify(edited));
          mine.add(text);
          tally.count('edits acknowledged');
        } else if (status === 409) {
          tally.refusal(answer.message, 'a save');
          tally.count('conflicts');
          const kept = await ask(base, 'GET', `/api/projects/${id}/versions/${answer.keptId}`);
          // The oldest of fifty that are kept may have gone since.
          if (kept.status === 200 && !isDeepStrictEqual(kept.answer, JSON.parse(JSON.stringify(edited))))
            throw new Broken('what was refused was not kept as it was sent');
          if (answer.current.revision <= revision) throw new Broken('a save was refused though nobody had saved in between');
          ({ revision, document } = answer.current);
        } else throw new Broken(`a save was answered with ${status}`);
        await later(random.between(0, 40));
      }
    };
    const tabs = Array.from({ length: TABS }, (_, n) => tab(n));
    const uploads = (async () => {
      for (let i = 0; busy && i < 20; i++) {
        const bytes = Buffer.concat([material.small.clip.bytes, random.bytes(8)]);
        const sent = await sendFile(base, { project: id, role: 'footage', name: `kite-${i}.mp4`, bytes });
        if (sent.status !== 200) throw new Broken(`an upload was answered with ${sent.status} while another server tried to start`);
        tally.count('uploads');
        await later(200);
      }
    })();
    const others = (async () => {
      while (busy) {
        const port = random.chance(0.5) ? '0' : new URL(base).port;
        const env = { ...process.env, BLUSTER_DATA: folder };
        const child = spawn(process.execPath, [join(root, 'apps/server/dist/main.js'), '--port', port], {
          env,
          stdio: ['ignore', 'pipe', 'pipe'],
        });
        let said = '';
        for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk));
        const code = await new Promise((done) => child.on('close', done));
        if (code === 0 || !/Another Bluster works in .*Stop it first/.test(said))
          throw new Broken(`a second server ended with ${code}: ${said.slice(0, 300)}`);
        tally.count('servers turned away');
      }
    })();
    const all = Promise.all([...tabs, uploads, others]).catch((error) => {
      busy = false;
      throw error;
    });
    while (busy && !over()) await later(50);
    busy = false;
    await all;
    // The last that was acknowledged is there.
    const { document } = await mustAsk(base, 'GET', route);
    if (!mine.has(document.titles.at(-1).text)) throw new Broken('the last edit that is there was acknowledged to nobody');
    await idle(base);
    await server.stop();
    await doctorSilent(folder);
  },
};
