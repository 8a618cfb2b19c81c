import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { FILL_DEFAULTS, UNDESCRIBED, carryOut, emptyMontage } from '../../packages/core/dist/index.js';
import { programPath } from '../../packages/media/dist/program/programs.js';

const root = resolve(import.meta.dirname, '../..');
const FOREIGN = process.env.BLUSTER_FOREIGN ?? '/tmp/foreign';
/** Files larger than this are left to the benches: mutated a hundred times they would fill the hour. */
const LARGEST = 6e6;

/** Small files of our own, quickly made ready. */
export function smallMaterial() {
  const folder = mkdtempSync(join(tmpdir(), 'bluster-material-'));
  const make = (name, ...args) => {
    execFileSync(programPath('ffmpeg'), ['-v', 'error', '-y', ...args, join(folder, name)]);
    return { name, bytes: readFileSync(join(folder, name)) };
  };
  const lavfi = (source) => ['-f', 'lavfi', '-i', source];
  return {
    song: make('song.wav', ...lavfi(`aevalsrc='0.8*sin(2*PI*110*t)*exp(-18*mod(t,0.5))':s=44100:d=4`)),
    clip: make('clip.mp4', ...lavfi('testsrc2=s=160x90:r=25:d=2'), ...lavfi('sine=d=2'), '-pix_fmt', 'yuv420p'),
    photo: make('photo.jpg', ...lavfi('testsrc2=s=300x200'), '-frames:v', '1'),
  };
}

/** Files of the demo and of strangers, as they are. */
export function realMaterial() {
  const folders = [join(root, 'demo/media'), ...['clips', 'photos', 'songs'].map((name) => join(FOREIGN, name))];
  return folders
    .filter((folder) => existsSync(folder))
    .flatMap((folder) => readdirSync(folder).map((name) => ({ name, path: join(folder, name) })))
    .filter(({ name }) => !/\.(txt|json|beats|downbeats)$/.test(name))
    .map(({ name, path }) => ({ name, bytes: readFileSync(path).subarray(0, LARGEST) }));
}

/** A montage of four seconds with a cut every half second, of clips and photos that are ready. */
export function montageOf(song, footage) {
  const items = footage.map(({ id, kind, name, info }) => ({
    assetId: id,
    kind,
    name,
    width: info.width,
    height: info.height,
    rate: info.rate ?? { num: 25, den: 1 },
    frames: info.frames ?? 1,
    hasSound: info.hasSound ?? false,
    ...UNDESCRIBED,
  }));
  const commands = [
    { do: 'setShape', shape: { width: 64, height: 36, rate: { num: 25, den: 1 } } },
    { do: 'setSong', assetId: song.id, name: song.name, length: song.info.length },
    { do: 'takeBeatTimes', times: [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5].filter((time) => time < song.info.length), metre: 4 },
    { do: 'addFootage', items },
    { do: 'hangByRule', rule: { kind: 'pulse', unit: 'beat', every: 1 } },
    { do: 'fill', options: FILL_DEFAULTS },
  ];
  return commands.reduce((montage, command) => carryOut(montage, /** @type {never} */ (command)), emptyMontage());
}
