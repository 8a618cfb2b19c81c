import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ownServer } from '../../../scripts/own-server.mjs';
import { sendFile } from '../../../scripts/tus-upload.mjs';
import { later, mustAsk } from '../asking.mjs';
import { filledProject } from '../filled-project.mjs';
import { Ledger } from '../ledger.mjs';
import { Broken } from '../tally.mjs';
import { doctorSilent, filesWhole, idle } from '../whole.mjs';

const HOUR = 3600_000;

/** The computer's clock jumps while work is under way, and between two starts. */
export const clocks = {
  name: 'clocks that jump',
  async run({ random, material, folder, over, tally }) {
    const clock = join(folder, 'clock');
    const jump = () => {
      writeFileSync(clock, String(random.pick([0, -24 * HOUR, 24 * HOUR, -400 * 24 * HOUR, 20 * 24 * HOUR, -HOUR, 3 * HOUR])));
      tally.count('jumps');
    };
    jump();
    const data = join(folder, 'data');
    const start = () =>
      ownServer({ folder: data, node: ['--import', join(import.meta.dirname, '../false-clock.mjs')], env: { BLUSTER_FALSE_CLOCK: clock } });
    const ledger = new Ledger();
    let server = await start();
    const { clip } = material.small;
    const project = await filledProject(server.base, ledger, 'Timeless', material.small);
    do {
      const { base } = server;
      const { id } = await mustAsk(base, 'POST', `/api/projects/${project}/exports`);
      await sendFile(base, { project, role: 'footage', name: 'kite.mp4', bytes: Buffer.concat([clip.bytes, random.bytes(8)]) });
      for (let i = 0; i < 6; i++) {
        jump();
        if (await ledger.edit(base, project, random)) tally.count('edits acknowledged');
        await later(random.between(10, 120));
      }
      await idle(base);
      const { state, problem } = await mustAsk(base, 'GET', `/api/jobs/${id}`);
      if (state !== 'done') throw new Broken(`a film ended as ${state}: ${problem}`);
      tally.count('films');
      if (random.chance(0.5)) {
        await server.stop();
        jump();
        server = await start();
      }
      await ledger.check(server.base);
    } while (!over());
    await filesWhole(server.base, data, tally);
    await server.stop();
    await doctorSilent(data);
  },
};
