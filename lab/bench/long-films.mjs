// Films of one, five and twenty minutes with a cut on every beat: what a minute of each costs, and how much memory a film of
// 1920x1080 takes, the programs that read and write it counted in.
import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { familyMemory } from './family-memory.mjs';
import { benchSong } from './straight-cuts.mjs';

/** To look takes a while itself, so it is done only where memory is measured. */
const LOOK_MS = 250;
const MINUTES = [1, 5, 20];
/** Small, so that twenty minutes are made in a few. */
const SMALL = ['320', '180'];
const LARGE = ['1920', '1080'];
/** What a film of 1080 lines may take. */
const MOST_MB = 600;
/** A minute of a long film may cost so much more than the only minute of a short one. */
const DEARER = 1.1;

/**
 * Makes a film in a process of its own.
 * @param {string[]} words
 * @param {(pid: number | undefined) => void} [onStart]
 * @returns how long it took, seconds
 */
async function film(words, onStart) {
  const child = spawn(process.execPath, [join(import.meta.dirname, 'one-film.mjs'), ...words], { stdio: ['ignore', 'pipe', 'inherit'] });
  onStart?.(child.pid);
  let said = '';
  child.stdout.on('data', (chunk) => (said += chunk));
  const code = await new Promise((done) => child.on('close', done));
  if (code !== 0) throw new Error(`one-film.mjs ended with ${code}`);
  return Number(said);
}

/** The most memory that it takes to make a film, MB. */
async function memoryOfFilm(words) {
  let most = 0;
  let looking;
  await film(words, (pid) => (looking = setInterval(() => (most = Math.max(most, familyMemory(pid) / 2 ** 20)), LOOK_MS)));
  clearInterval(looking);
  return most;
}

export async function benchLongFilms() {
  const scratch = mkdtempSync(join(tmpdir(), 'bluster-bench-'));
  const rows = [];
  let first = 0;
  for (const minutes of MINUTES) {
    const song = await benchSong(scratch, minutes * 60);
    const seconds = await film([String(minutes * 60), 'beat', ...SMALL, song, join(scratch, 'film.mp4')]);
    const each = seconds / minutes;
    if (first === 0) first = each;
    rows.push({ what: `a minute of a film of ${minutes}, a cut a beat, 320x180`, value: each, unit: ' s' });
    if (minutes > 1) rows.push({ what: `against the film of one minute`, value: each / first, unit: 'x', limit: DEARER });
  }
  const song = await benchSong(scratch, 60);
  const most = await memoryOfFilm(['60', 'beat', ...LARGE, song, join(scratch, 'film.mp4')]);
  rows.push({ what: 'memory of a film of 1920x1080, its programs counted in', value: most, unit: ' MB', limit: MOST_MB });
  return rows;
}
