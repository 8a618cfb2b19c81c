// ./bluster torture: everything that may go wrong is made to go wrong, and nothing may be lost by it.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { endServers } from '../../scripts/own-server.mjs';
import { realMaterial, smallMaterial } from './material.mjs';
import { Random } from './random.mjs';
import { SCENARIOS } from './scenarios/all.mjs';
import { Tally } from './tally.mjs';

/**
 * What a scenario is given: random numbers, files, a folder of its own, whether its time is over, and where it counts.
 * @typedef {{ random: Random, material: { small: ReturnType<typeof smallMaterial>, real: typeof realMaterial }, folder: string, over: () => boolean, tally: Tally }} Torment
 */

const { values } = parseArgs({
  options: {
    minutes: { type: 'string', default: '2' },
    seed: { type: 'string' },
    only: { type: 'string' },
    sentences: { type: 'boolean' },
  },
});
const minutes = Number(values.minutes);
const seed = Number(values.seed ?? Math.floor(Math.random() * 2 ** 31));
if (!(minutes > 0) || !Number.isInteger(seed)) {
  console.error('usage: ./bluster torture [--minutes N] [--seed S] [--only NAME] [--sentences]');
  process.exit(2);
}
const chosen = SCENARIOS.filter(({ name }) => !values.only || name === values.only);
if (chosen.length === 0) {
  console.error(`There is no scenario "${values.only}". There are: ${SCENARIOS.map(({ name }) => name).join(', ')}.`);
  process.exit(2);
}
console.log(`torture: ${minutes} min, seed ${seed}`);
const share = (minutes * 60_000) / chosen.length;
const material = { small: smallMaterial(), real: realMaterial };
const began = Date.now();
const sentences = new Set();
let broken = 0;
let refusals = 0;
for (const [i, { name, run }] of chosen.entries()) {
  const folder = mkdtempSync(join(tmpdir(), 'bluster-torture-'));
  const tally = new Tally();
  const from = Date.now();
  try {
    await run({ random: new Random(seed + i), material, folder, over: () => Date.now() - from >= share, tally });
    console.log(`${name}: ${tally.toString()} (${Math.round((Date.now() - from) / 1000)} s)`);
    rmSync(folder, { recursive: true, force: true });
  } catch (/** @type {any} */ error) {
    endServers();
    broken++;
    console.log(`${name}: BROKEN after ${tally.toString()}: ${error.message}\n  seed ${seed}, folder ${folder}`);
    if (error.constructor.name !== 'Broken') console.log(error.stack);
  }
  refusals += tally.counts.refusals ?? 0;
  for (const sentence of tally.sentences) sentences.add(sentence);
}
if (values.sentences) console.log([...sentences].sort().join('\n'));
const took = Math.round((Date.now() - began) / 1000);
console.log(`${chosen.length} scenarios in ${took} s, ${refusals} refusals in ${sentences.size} sentences, ${broken} broken`);
process.exit(broken === 0 ? 0 : 1);
