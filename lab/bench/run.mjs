// Measures the speeds that the README promises, each as a ratio or a count within one run, and fails where one is missed.
// usage: ./bluster bench [beats] [marking] [shortening] [footage] [cut] [load] [export] [films] [dressed] [preview] [score] [saves] [screens]
import { benchBeats } from './beats.mjs';
import { benchDressed } from './dressed.mjs';
import { benchExport } from './export.mjs';
import { benchFirstCut } from './first-cut.mjs';
import { benchFootage } from './footage.mjs';
import { marking } from './marking.mjs';
import { benchLongFilms } from './long-films.mjs';
import { benchPreview } from './preview.mjs';
import { benchSaves } from './saves.mjs';
import { benchScore } from './score.mjs';
import { benchScreens } from './screens.mjs';
import { shortening } from './shortening.mjs';
import { benchLoad } from './load.mjs';

const BENCHES = {
  beats: benchBeats,
  marking,
  shortening,
  footage: benchFootage,
  cut: benchFirstCut,
  load: benchLoad,
  export: benchExport,
  films: benchLongFilms,
  dressed: benchDressed,
  preview: benchPreview,
  score: benchScore,
  saves: benchSaves,
  screens: benchScreens,
};
/** @typedef {{ what: string, value: number, unit: string, limit?: number, least?: number }} Measure */
const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !(name in BENCHES));
if (unknown.length > 0) {
  console.error(`There is no benchmark "${unknown[0]}". There are: ${Object.keys(BENCHES).join(', ')}.`);
  process.exit(2);
}
let missed = 0;
for (const [name, bench] of Object.entries(BENCHES)) {
  if (asked.length > 0 && !asked.includes(name)) continue;
  for (const { what, value, unit, limit, least } of /** @type {Measure[]} */ (await bench())) {
    const good = (limit === undefined || value <= limit) && (least === undefined || value >= least);
    if (!good) missed++;
    const met = good ? 'met' : 'MISSED';
    const bound =
      limit !== undefined ? `   at most ${limit}${unit}: ${met}` : least !== undefined ? `   at least ${least}${unit}: ${met}` : '';
    console.log(`${name.padEnd(10)} ${what.padEnd(58)} ${value.toFixed(2).padStart(8)}${unit}${bound}`);
  }
}
process.exit(missed === 0 ? 0 : 1);
