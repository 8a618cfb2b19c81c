// Films of one, five and twenty minutes with a cut on every beat: what a minute of each costs, and how much memory a film of
// 1920x1080 takes, the programs that read and write it counted in.
import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { benchSong } from './straight-cuts.mjs';

const LOOK_MS = 100;
const MINUTES = [1, 5, 20];
/** Small, so that twenty minutes are made in a few. */
const SMALL = ['320', '180'];
const LARGE = ['1920', '1080'];
/** What a film of 1080 lines may take. */
const MOST_MB = 600;
/** A minute of a long film may cost so much more than the only minute of a short one. */
const DEARER = 1.1;

/** Memory of a process and all that it started, MB; pages that several share are counted in each. */
function memoryOf(pid) {
  const parents = new Map();
  const sizes = new Map();
  for (const entry of readdirSync('/proc')) {
    if (!/^\d+$/.test(entry)) continue;
    try {
      const status = readFileSync(`/proc/${entry}/status`, 'utf8');
      parents.set(Number(entry), Number(/^PPid:\s+(\d+)/m.exec(status)?.[1]));
      sizes.set(Number(entry), Number(/^VmRSS:\s+(\d+)/m.exec(status)?.[1] ?? 0) / 1024);
    } catch {
      // It ended while it was looked at.
    }
  }
  let total = 0;
  for (const [one, size] of sizes) {
    for (let at = one; at > 1; at = parents.get(at) ?? 0) {
      if (at !== pid) continue;
      total += size;
      break;
    }
  }
  return total;
}

/** Makes a film in a process of its own. @returns how long it took, seconds, and the most memory that it took, MB */
async function film(words) {
  const child = spawn(process.execPath, [join(import.meta.dirname, 'one-film.mjs'), ...words], { stdio: ['ignore', 'pipe', 'inherit'] });
  let most = 0;
  const looking = setInterval(() => (most = Math.max(most, memoryOf(child.pid))), LOOK_MS);
  let said = '';
  child.stdout.on('data', (chunk) => (said += chunk));
  const code = await new Promise((done) => child.on('close', done));
  clearInterval(looking);
  if (code !== 0) throw new Error(`one-film.mjs ended with ${code}`);
  return { seconds: Number(said), most };
}

export async function benchLongFilms() {
  const scratch = mkdtempSync(join(tmpdir(), 'bluster-bench-'));
  const rows = [];
  let first = 0;
  for (const minutes of MINUTES) {
    const song = await benchSong(scratch, minutes * 60);
    const { seconds } = await film([String(minutes * 60), 'beat', ...SMALL, song, join(scratch, 'film.mp4')]);
    const each = seconds / minutes;
    if (first === 0) first = each;
    rows.push({ what: `a minute of a film of ${minutes}, a cut a beat, 320x180`, value: each, unit: ' s' });
    if (minutes > 1) rows.push({ what: `against the film of one minute`, value: each / first, unit: 'x', limit: DEARER });
  }
  const song = await benchSong(scratch, 60);
  const { most } = await film(['60', 'beat', ...LARGE, song, join(scratch, 'film.mp4')]);
  rows.push({ what: 'memory of a film of 1920x1080, its programs counted in', value: most, unit: ' MB', limit: MOST_MB });
  return rows;
}
