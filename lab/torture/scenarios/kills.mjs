import { execFile } from 'node:child_process';
import { join, resolve } from 'node:path';
import { ownServer } from '../../../scripts/own-server.mjs';
import { sendFile } from '../../../scripts/tus-upload.mjs';
import { ask, later, until } from '../asking.mjs';
import { filledProject } from '../filled-project.mjs';
import { Ledger } from '../ledger.mjs';
import { doctorSilent, filesWhole, idle, nobodyLeft } from '../whole.mjs';

const root = resolve(import.meta.dirname, '../../..');

/** The server is killed at random moments of saves, uploads, looks, previews, films, migrations and copies. */
export const kills = {
  name: 'kills',
  async run({ random, material, folder, over, tally }) {
    const ledger = new Ledger();
    let server = await ownServer({ folder });
    const edited = await ledger.newProject(server.base, 'Edited');
    const { clip } = material.small;
    const project = await filledProject(server.base, ledger, 'Filmed', material.small);
    do {
      const { base } = server;
      let killed = false;
      const work = [
        (async () => {
          while (!killed) if (await ledger.edit(base, edited, random)) tally.count('edits acknowledged');
        })(),
        (async () => {
          while (!killed) {
            // Other bytes at its end make it another file.
            const bytes = Buffer.concat([clip.bytes, random.bytes(8)]);
            await sendFile(base, { project: edited, role: 'footage', name: `kite-${tally.counts.uploads ?? 0}.mp4`, bytes }).catch(
              () => undefined,
            );
            tally.count('uploads');
            await later(random.between(50, 400));
          }
        })(),
        (async () => {
          while (!killed) {
            // As many as are made between two kills, or a few more.
            const { answer } = await ask(base, 'GET', `/api/projects/${project}/jobs`);
            const waiting = (answer ?? []).filter(({ state }) => state === 'queued' || state === 'running').length;
            if (waiting < 3 && (await ask(base, 'POST', `/api/projects/${project}/exports`)).status === 201) tally.count('films asked for');
            await later(random.between(100, 900));
          }
        })(),
        (async () => {
          const env = { ...process.env, BLUSTER_DATA: folder };
          await later(random.between(0, 800));
          const copying = execFile(process.execPath, [join(root, 'apps/server/dist/keep.js'), 'backup'], { env }, () => undefined);
          await later(random.between(100, 700));
          copying.kill('SIGKILL');
        })(),
      ];
      await later(random.between(200, 2500));
      await server.stop('SIGKILL');
      killed = true;
      tally.count('kills');
      await Promise.all(work);
      // Sometimes it is killed again while it starts.
      if (random.chance(0.3)) {
        const starting = ownServer({ folder }).catch(() => null);
        await later(random.between(50, 900));
        await Promise.race([starting.then((started) => started?.stop('SIGKILL')), later(1500)]);
        await (await starting)?.stop('SIGKILL');
        tally.count('kills');
      }
      server = await ownServer({ folder });
      await ledger.check(server.base);
    } while (!over());
    await until('room to work', async () => (await ask(server.base, 'GET', '/api/projects')).status === 200);
    await idle(server.base);
    await filesWhole(server.base, folder, tally);
    await server.stop();
    await nobodyLeft(folder);
    await doctorSilent(folder);
  },
};
