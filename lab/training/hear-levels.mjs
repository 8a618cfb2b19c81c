// Reads each piece of a folder that listen.mjs or hear-scores.mjs filled at every level at which it could be counted, and writes
// what tells the levels apart and how right each is, for judge-levels.py. The application must be built with the network's weights.
// usage: node lab/training/hear-levels.mjs FOLDER OUT.json [PART PARTS]
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beatMeasures } from '../composer/dist/index.js';
import { beatChances } from '../../packages/core/dist/music/beat-network.js';
import { bandRises, LEVEL_CUES, levelCues } from '../../packages/core/dist/music/level-cues.js';
import { possibleLevels } from '../../packages/core/dist/music/levels.js';

/** Pieces with fewer beats have no level. */
const FEWEST_BEATS = 16;
const [folder, out, part = '0', parts = '1'] = process.argv.slice(2);

const pieces = [];
for (const [i, file] of readdirSync(folder)
  .filter((name) => name.endsWith('.json'))
  .sort()
  .entries()) {
  if (i % Number(parts) !== Number(part)) continue;
  const about = JSON.parse(readFileSync(join(folder, file), 'utf8'));
  if (about.beats.length < FEWEST_BEATS) continue;
  const bytes = readFileSync(join(folder, file.replace('.json', '.u16')));
  const whole = new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
  const pulse = Float32Array.from(whole, (v) => v / 16384);
  const onsets = { pulse, pulseWidth: about.width, pulseRises: about.Q, pulseFps: 50 };
  const heard = { onsets, chances: beatChances(pulse, about.width) };
  const rises = bandRises(onsets);
  const levels = possibleLevels(heard);
  if (levels.length < 2) continue;
  pieces.push({
    name: file.replace('.json', ''),
    levels: levels.map((beats, k) => ({ right: beatMeasures(beats, about.beats).f, cues: levelCues(heard, rises, beats, k === 0) })),
  });
}
writeFileSync(out, JSON.stringify({ names: LEVEL_CUES, pieces }));
