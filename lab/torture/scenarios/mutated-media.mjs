import { ownServer } from '../../../scripts/own-server.mjs';
import { sendFile } from '../../../scripts/tus-upload.mjs';
import { ask, mustAsk, until } from '../asking.mjs';
import { montageOf } from '../material.mjs';
import { Broken } from '../tally.mjs';
import { doctorSilent, filesWhole, idle } from '../whole.mjs';

/**
 * A file with something wrong in it.
 * @param {Buffer} bytes
 * @param {import('../random.mjs').Random} random
 * @returns {Buffer}
 */
export function mutate(bytes, random) {
  const out = Buffer.from(bytes);
  const at = () => random.between(0, Math.max(0, out.length - 1));
  const ways = [
    () => {
      for (let i = random.between(1, 60); i > 0; i--) out[at()] = random.between(0, 255);
      return out;
    },
    // Headers lie at the beginning, or at the end.
    () => {
      for (let i = random.between(1, 12); i > 0; i--) out[random.between(0, Math.min(4000, out.length - 1))] = random.between(0, 255);
      return out;
    },
    () => out.subarray(0, at()),
    () => out.fill(random.pick([0, 255]), ...[at(), at()].sort((a, b) => a - b)),
    () => Buffer.concat([out.subarray(0, at()), out.subarray(at())]),
    // Lengths and counts are four bytes: made as large as they can be.
    () => {
      for (let i = random.between(1, 6); i > 0; i--)
        out.writeUInt32BE(random.pick([0xffffffff, 0x7fffffff, 0, 1]), Math.min(at(), out.length - 4));
      return out;
    },
    () => Buffer.concat([random.bytes(random.between(1, 64)), out]),
    () =>
      Buffer.concat([Buffer.from(random.pick(['#EXTM3U\n/etc/passwd\n\0', '<MPD>\0', 'ffconcat version 1.0\nfile /etc/passwd\n'])), out]),
  ];
  return random.pick(ways)();
}

/** Damaged and evil files: each is made ready and can be shown and filmed, or is refused with a sentence. */
export const mutatedMedia = {
  name: 'mutated media',
  async run({ random, material, folder, over, tally }) {
    const server = await ownServer({ folder });
    const { base } = server;
    const { id: project } = await mustAsk(base, 'POST', '/api/projects', { name: 'Torn' });
    await sendFile(base, { project, role: 'song', ...material.small.song });
    await idle(base);
    const [song] = await mustAsk(base, 'GET', `/api/projects/${project}/assets`);
    const files = material.real();
    let revision = 1;
    do {
      const { name, bytes } = random.pick(files);
      const role = random.chance(0.2) ? 'song' : 'footage';
      tally.count('files');
      const sent = await sendFile(base, { project, role, name, bytes: mutate(bytes, random) });
      const answer = await sent.json();
      if (sent.status >= 500) throw new Broken(`${name} was answered with ${sent.status}: ${answer.message}`);
      if (sent.status !== 200) {
        tally.refusal(answer.message, name);
        continue;
      }
      let progress = '';
      const look = async () => {
        const found = (await mustAsk(base, 'GET', `/api/projects/${project}/assets`)).find((a) => a.id === answer.id);
        // A small file may claim minutes, and then has them.
        const jobs = await mustAsk(base, 'GET', `/api/projects/${project}/jobs`);
        progress = jobs.map((job) => job.progress).join();
        return found.state === 'working' ? null : found;
      };
      const asset = await until(`an end of the work on ${name}`, look, () => progress);
      if (asset.state === 'failed') {
        tally.refusal(asset.problem, name);
        continue;
      }
      tally.count('let in');
      if (asset.kind !== 'clip' && asset.kind !== 'photo') continue;
      const saved = await ask(base, 'PUT', `/api/projects/${project}/montage`, { revision, document: montageOf(song, [asset]) });
      if (saved.status !== 200) throw new Broken(`${name} was let in and cannot be saved: ${saved.text.slice(0, 300)}`);
      ({ revision } = saved.answer);
      const shown = asset.kind === 'photo' ? ['photo', 'thumb'] : ['proxy', 'strip', 'thumb'];
      for (const part of shown) {
        const { status } = await ask(base, 'GET', `/api/assets/${asset.id}/${part}`);
        if (status !== 200) throw new Broken(`${name} was let in and its ${part} cannot be shown: ${status}`);
      }
      if (random.chance(0.5)) {
        const { id } = await mustAsk(base, 'POST', `/api/projects/${project}/exports`);
        const job = await until(`the film of ${name}`, async () => {
          const found = await mustAsk(base, 'GET', `/api/jobs/${id}`);
          return ['done', 'failed'].includes(found.state) ? found : null;
        });
        if (job.state === 'failed') throw new Broken(`${name} was let in and cannot be filmed: ${job.problem}`);
        tally.count('films');
      }
    } while (!over());
    await idle(base);
    await filesWhole(base, folder, tally);
    await server.stop();
    await doctorSilent(folder);
  },
};
