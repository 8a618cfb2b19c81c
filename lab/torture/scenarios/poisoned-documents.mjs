import { isDeepStrictEqual } from 'node:util';
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { drawListAt, readMontage, scoreOf, syncReport } from '../../../packages/core/dist/index.js';
import { ownServer } from '../../../scripts/own-server.mjs';
import { ask, mustAsk } from '../asking.mjs';
import { Broken } from '../tally.mjs';
import { doctorSilent } from '../whole.mjs';

const root = resolve(import.meta.dirname, '../../..');

const POISON = [
  null, true, '', 'x', -1, 0, 1, 0.1, 1e308, -1e308, 2 ** 53, 240_000, 1e-300, [], {}, [null], { __proto__: 1 }, 'x'.repeat(10_000), '\u0000',
  { num: 240_000, den: 1 }, { num: 1, den: 0 }, { time: 1e12 }, 8193, 819_200, 7,
]; // oxfmt-ignore

/**
 * One place of a document, chosen at random, with what holds it.
 * @returns {{ holder: any, key: any }}
 */
function anyPlace(value, random) {
  /** @type {[any, any]} */
  let [holder, key] = [null, null];
  let here = value;
  while (here && typeof here === 'object' && Object.keys(here).length > 0 && (holder === null || random.chance(0.85))) {
    holder = here;
    key = random.pick(Object.keys(here));
    here = here[key];
  }
  return { holder, key };
}

function poison(document, random) {
  const out = structuredClone(document);
  for (let i = random.between(1, 3); i > 0; i--) {
    const { holder, key } = anyPlace(out, random);
    if (!holder) continue;
    const ways = [
      () => (holder[key] = random.pick(POISON)),
      () => (Array.isArray(holder) ? holder.splice(key, 1) : delete holder[key]),
      () => Array.isArray(holder) && holder.push(...Array.from({ length: random.pick([1, 50, 2000]) }, () => structuredClone(holder[key]))),
      () => typeof holder[key] === 'number' && (holder[key] *= random.pick([-1, 0, 1e6, 1.0000001])),
      () => (holder[random.pick(['extra', 'constructor', 'toString'])] = random.pick(POISON)),
    ];
    random.pick(ways)();
  }
  return out;
}

/** Documents with something wrong in them: each is refused with a sentence, or can be worked with like any other. */
export const poisonedDocuments = {
  name: 'poisoned documents',
  async run({ random, folder, over, tally }) {
    const server = await ownServer({ folder });
    const { base } = server;
    const { id } = await mustAsk(base, 'POST', '/api/projects', { name: 'Poisoned' });
    const good = JSON.parse(readFileSync(join(root, 'demo/media/kite-day.montage.json'), 'utf8'));
    let revision = 1;
    do {
      // As it goes over the wire: what JSON does not carry is no part of it.
      const sent = JSON.parse(JSON.stringify(poison(good, random)));
      tally.count('documents');
      const { status, answer, text } = await ask(base, 'PUT', `/api/projects/${id}/montage`, { revision, document: sent });
      if (status === 200) {
        ({ revision } = answer);
        tally.count('taken');
        const { document } = await mustAsk(base, 'GET', `/api/projects/${id}/montage`);
        const read = readMontage(sent);
        if (!isDeepStrictEqual(document, JSON.parse(JSON.stringify(read)))) throw new Broken('what comes back is not what was sent');
        // What a page and a film do with it.
        const { frames } = scoreOf(read);
        for (const n of [0, Math.floor(frames / 2), frames - 1]) if (n >= 0) drawListAt(read, n);
        syncReport(read);
      } else if (status >= 500 || status === 0) throw new Broken(`a document was answered with ${status}: ${text.slice(0, 300)}`);
      else tally.refusal(answer?.message, 'a document');
      const list = await mustAsk(base, 'GET', '/api/projects');
      if (list[0].problem !== null) throw new Broken(`a document was taken and cannot be opened: ${list[0].problem}`);
    } while (!over());
    await server.stop();
    await doctorSilent(folder);
  },
};
