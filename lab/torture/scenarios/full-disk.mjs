import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ownServer } from '../../../scripts/own-server.mjs';
import { sendFile } from '../../../scripts/tus-upload.mjs';
import { ask, later, mustAsk } from '../asking.mjs';
import { filledProject } from '../filled-project.mjs';
import { Ledger } from '../ledger.mjs';
import { doctorSilent, filesWhole, idle } from '../whole.mjs';

/** A disk of its own that can be filled, which the launcher makes possible for others than root too; null where this computer lets nobody make one. */
function smallDisk(folder) {
  mkdirSync(folder, { recursive: true });
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=120m', 'tmpfs', folder], { stdio: 'ignore' });
    return folder;
  } catch {
    return null;
  }
}

/** Everything that is left of a disk is taken, at once. */
function fill(disk, leave) {
  const path = join(disk, 'ballast');
  try {
    writeFileSync(path, Buffer.alloc(200e6));
  } catch (/** @type {any} */ error) {
    if (error.code !== 'ENOSPC') throw error;
  }
  if (leave > 0) {
    const free = Number(execFileSync('stat', ['-c', '%s', path], { encoding: 'utf8' }));
    execFileSync('truncate', ['-s', String(Math.max(0, free - leave)), path]);
  }
  return path;
}

/** The disk runs full at random moments, and there is room again. */
export const fullDisk = {
  name: 'full disk',
  async run({ random, material, folder, over, tally }) {
    const disk = smallDisk(join(folder, 'disk'));
    if (!disk) {
      tally.count('skipped: this computer lets nobody make a small disk');
      return;
    }
    try {
      const ledger = new Ledger();
      const server = await ownServer({ folder: disk });
      const { base } = server;
      const { clip } = material.small;
      const project = await filledProject(base, ledger, 'Full', material.small);
      let brought = 0;
      do {
        let busy = true;
        const said = (status, answer, of) => {
          if (status >= 400) tally.refusal(answer?.message, of);
          if (status === 507) tally.count('refused for want of room');
        };
        const work = [
          (async () => {
            while (busy) {
              if (await ledger.edit(base, project, random)) tally.count('edits acknowledged');
              await later(20);
            }
          })(),
          (async () => {
            // The disk is small: some files are enough.
            for (; busy && brought < 40; brought++) {
              const bytes = Buffer.concat([clip.bytes, random.bytes(8)]);
              const sent = await sendFile(base, { project, role: 'footage', name: `kite-${brought}.mp4`, bytes }).catch(() => null);
              if (sent && sent.status !== 200) said(sent.status, await sent.json().catch(() => null), 'an upload');
              await later(random.between(20, 200));
            }
          })(),
          (async () => {
            while (busy) {
              // As many as are made between two fillings, or a few more.
              const jobs = (await ask(base, 'GET', `/api/projects/${project}/jobs`)).answer ?? [];
              if (jobs.filter(({ state }) => state === 'queued' || state === 'running').length < 3) {
                const { status, answer } = await ask(base, 'POST', `/api/projects/${project}/exports`);
                said(status, answer, 'an export');
              }
              await later(random.between(200, 800));
            }
          })(),
        ];
        await later(random.between(100, 1200));
        const ballast = fill(disk, random.chance(0.5) ? 0 : random.between(0, 4e6));
        tally.count('times full');
        await later(random.between(500, 2500));
        rmSync(ballast);
        await later(random.between(100, 600));
        busy = false;
        await Promise.all(work);
        await ledger.check(base);
      } while (!over());
      // Work goes on by itself.
      await idle(base);
      for (const { state, name, problem } of await mustAsk(base, 'GET', `/api/projects/${project}/assets`))
        if (state === 'failed') tally.refusal(problem, name);
      await filesWhole(base, disk, tally);
      const from = Date.now();
      await server.stop();
      tally.count('s to stop', Math.ceil((Date.now() - from) / 1000));
      await doctorSilent(disk);
    } finally {
      execFileSync('umount', ['-l', disk]);
    }
  },
};
