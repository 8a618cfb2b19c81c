// A bare machine: every ffmpeg of this one is hidden, the launcher has to get one as without root, prepare the demo, export ten
// seconds of it and read them back. Ends with 0 and one line, or with 1 and what went wrong. What was prepared stays where
// BLUSTER_BARE_DATA says, for those who come after and need it ready; its project is deleted.
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join, resolve } from 'node:path';
import { demoReady } from './demo-server.mjs';
import { addressOf } from './own-server.mjs';

const root = resolve(import.meta.dirname, '..');
const kept = process.env.BLUSTER_BARE_DATA;
const scratch = mkdtempSync(join(tmpdir(), 'bluster-bare-'));
const SECONDS = 10;
const HIDDEN = /^(ffmpeg|ffprobe|ffplay)/;

/** A folder with all programs of the PATH but the hidden ones. */
function barePath() {
  const bin = join(scratch, 'bin');
  mkdirSync(bin);
  for (const folder of (process.env.PATH ?? '').split(delimiter)) {
    let names = [];
    try {
      names = readdirSync(folder);
    } catch {
      // a folder of the PATH that is not there
    }
    for (const name of names)
      if (!HIDDEN.test(name))
        try {
          symlinkSync(join(folder, name), join(bin, name));
        } catch {
          // an earlier folder has one of that name
        }
  }
  return bin;
}

const data = kept ?? join(scratch, 'data');
/** @type {NodeJS.ProcessEnv} */
const env = { ...process.env, PATH: barePath(), BLUSTER_NO_INSTALL: '1', BLUSTER_DATA: data };
delete env.BLUSTER_FFMPEG;
delete env.BLUSTER_FFPROBE;
const shell = (words) => spawnSync('sh', ['-c', words], { env, encoding: 'utf8' });
if (shell('command -v ffmpeg').status === 0) throw new Error('an ffmpeg is still in sight');

const child = spawn(join(root, 'bluster'), ['demo', '--port', '0'], { env, stdio: ['ignore', 'pipe', 'inherit'] });
try {
  const base = await addressOf(child);
  const project = await demoReady(base);
  const core = await import('../packages/core/dist/index.js');
  const { revision, document } = await (await fetch(`${base}/api/projects/${project}/montage`)).json();
  const pieces = [{ from: document.song.pieces[0].from, to: document.song.pieces[0].from + SECONDS }];
  const cut = core.carryOut(core.readMontage(document), { do: 'setSongRange', pieces });
  const headers = { 'Content-Type': 'application/json' };
  const body = JSON.stringify({ revision, document: cut });
  const saved = await fetch(`${base}/api/projects/${project}/montage`, { method: 'PUT', headers, body });
  if (!saved.ok) throw new Error(`the cut was not saved: ${await saved.text()}`);
  let job = await (await fetch(`${base}/api/projects/${project}/exports`, { method: 'POST' })).json();
  while (job.state !== 'done') {
    if (job.state === 'failed') throw new Error(`the export failed: ${job.problem}`);
    await new Promise((later) => setTimeout(later, 200));
    job = await (await fetch(`${base}/api/jobs/${job.id}`)).json();
  }
  const film = join(data, 'exports', `${job.id}.mp4`);
  const { frames } = core.scoreOf(cut);
  const ffprobe = join(root, '.bluster/debian/bin/ffprobe');
  const ask = ['-v', 'error', '-count_frames', '-show_entries', 'stream=codec_type,nb_read_frames', '-of', 'csv=p=0', film];
  const streams = spawnSync(ffprobe, ask, { encoding: 'utf8' }).stdout.trim().split('\n');
  if (!streams.includes(`video,${frames}`)) throw new Error(`wanted ${frames} frames, the film has: ${streams.join('; ')}`);
  if (!streams.some((s) => s.startsWith('audio,'))) throw new Error('the film has no sound');
  if (kept) await fetch(`${base}/api/projects/${project}`, { method: 'DELETE' });
  process.stdout.write(`bare machine: demo prepared, ${SECONDS} s exported, ${frames} frames read back\n`);
} finally {
  child.kill('SIGTERM');
  // It holds its data folder until it has ended.
  if (child.exitCode === null && child.signalCode === null) await new Promise((ended) => child.once('exit', ended));
  rmSync(scratch, { recursive: true, force: true });
}
