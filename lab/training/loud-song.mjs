// Composes a fast, loud piece and records it through an amplifier, with its beats and bars beside it: a song to try detection by.
// usage: node lab/training/loud-song.mjs SEED OUT.ogg     e2e/material/squall-on-the-ridge.ogg is of seed 34
import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { Chance, compose, perform } from '../composer/dist/index.js';
import { play } from './heard.mjs';
import { amplified, GUITARS, together } from './recording.mjs';

const RATE = 44100;
const SECONDS = 48;
const LEAD = 0.3;
const LOUD = 1.6;
const PEAK = 0.9;

const [seed, out] = process.argv.slice(2);
const chance = new Chance(Number(seed));
const piece = compose({ seed: Number(seed), seconds: SECONDS, free: true, style: 'heavy' });
const performed = (keep) => perform({ ...piece, parts: piece.parts.filter(keep) }, Number(seed), LEAD).midi;
const isGuitar = (part) => !part.drums && GUITARS.includes(part.program);
const [others, guitars] = [(part) => !isGuitar(part), isGuitar].map((keep) =>
  play(out, performed(keep), chance, { rate: RATE, dry: false }),
);
const samples = together(others, amplified(guitars, RATE, chance)).map((v) => Math.tanh(LOUD * v));
const top = samples.reduce((most, v) => Math.max(most, Math.abs(v)), 1e-9);
const bytes = Buffer.from(samples.map((v) => (PEAK / top) * v).buffer);
const raw = ['-f', 'f32le', '-ar', String(RATE), '-ac', '1', '-i', '-'];
spawnSync('ffmpeg', ['-v', 'error', '-y', ...raw, '-c:a', 'libvorbis', '-q:a', '4', out], { input: bytes });
const { beats, bars } = perform(piece, Number(seed), LEAD).truth;
for (const [name, times] of Object.entries({ beats, bars }))
  writeFileSync(out.replace(/ogg$/, `${name}.txt`), `${times.map((t) => t.toFixed(6)).join('\n')}\n`);
