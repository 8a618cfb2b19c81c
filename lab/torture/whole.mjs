import { execFile } from 'node:child_process';
import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import { programPath } from '../../packages/media/dist/program/programs.js';
import { mustAsk, until } from './asking.mjs';
import { Broken } from './tally.mjs';

const run = promisify(execFile);
const root = resolve(import.meta.dirname, '../..');

/** How many pictures lie in a film, and whether all of them can be decoded. */
async function framesIn(path) {
  const ask = ['-v', 'error', '-count_frames', '-select_streams', 'v:0', '-show_entries', 'stream=nb_read_frames', '-of', 'csv=p=0', path];
  const { stdout, stderr } = await run(programPath('ffprobe'), ask);
  if (stderr.trim() !== '') throw new Broken(`${path} is damaged: ${stderr.slice(0, 200)}`);
  return Number(stdout.trim());
}

/** Waits until a server has nothing under way. */
export async function idle(base) {
  let left = '';
  const look = async () => {
    const open = [];
    for (const { id } of await mustAsk(base, 'GET', '/api/projects')) {
      const jobs = await mustAsk(base, 'GET', `/api/projects/${id}/jobs`);
      const assets = await mustAsk(base, 'GET', `/api/projects/${id}/assets`);
      open.push(...jobs.filter(({ state }) => state === 'queued' || state === 'running').map((job) => `${job.id} ${job.progress}`));
      open.push(...assets.filter(({ state }) => state === 'working').map((asset) => asset.id));
    }
    left = open.join();
    return open.length === 0;
  };
  await until('an end of all work', look, () => left);
}

/** Looks whether the files of what is ready are whole. @throws Broken where one is not */
export async function filesWhole(base, folder, tally) {
  for (const { id } of await mustAsk(base, 'GET', '/api/projects')) {
    for (const asset of await mustAsk(base, 'GET', `/api/projects/${id}/assets`)) {
      if (asset.state !== 'ready') continue;
      const path = (part) => join(folder, 'assets', asset.id, part);
      if (asset.kind === 'clip') {
        const frames = await framesIn(path('proxy.mp4'));
        if (frames < asset.info.frames)
          throw new Broken(`the preview of ${asset.name} has ${frames} frames, and it has ${asset.info.frames}`);
        tally.count('previews whole');
      }
      if (asset.kind === 'song' && readFileSync(path('sound.wav')).length < 44 + 4 * Math.floor(asset.info.length * 44_100 - 1))
        throw new Broken(`the sound of ${asset.name} is shorter than it says`);
    }
    for (const job of await mustAsk(base, 'GET', `/api/projects/${id}/jobs`)) {
      if (job.kind !== 'export' || job.state !== 'done') continue;
      const frames = await framesIn(join(folder, 'exports', `${job.id}.mp4`));
      if (frames !== job.result.frames) throw new Broken(`a film has ${frames} frames in place of ${job.result.frames}`);
      tally.count('films whole');
    }
  }
}

/** The doctor of a data folder that no server holds has to be silent. @throws Broken where it is not */
export async function doctorSilent(folder) {
  const env = { ...process.env, BLUSTER_DATA: folder };
  const { stdout, stderr } = await run(process.execPath, [join(root, 'apps/server/dist/keep.js'), 'doctor'], { env }).catch(
    (error) => error,
  );
  if (`${stdout}${stderr}`.trim() !== '') throw new Broken(`the doctor finds: ${`${stdout}${stderr}`.trim().slice(0, 800)}`);
}

/** Programs that still work in a data folder whose server is gone. @throws Broken where there are some */
export async function nobodyLeft(folder) {
  const mark = `BLUSTER_WORKS_IN=${folder}`;
  const living = () =>
    readdirSync('/proc').filter((pid) => {
      try {
        const state = /^State:\s+(\w)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1];
        return /^\d+$/.test(pid) && state !== 'Z' && readFileSync(`/proc/${pid}/environ`, 'utf8').includes(mark);
      } catch {
        return false;
      }
    });
  if (existsSync('/proc')) await until('an end of the programs of a server that is gone', async () => living().length === 0);
}
