// First cuts against story order with a cut on every bar: how far motion goes with the music, how many hits land on marks, how soon
// clips come again, how well lengths can be foretold. On the demo's material, and on the folder of foreign files where that is given
// by BLUSTER_FOREIGN.
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import {
  ANALYSIS_RATE,
  carryOut,
  emptyMontage,
  fill,
  FILL_DEFAULTS,
  firstCut,
  footageItem,
  OnsetMeter,
  detectIn,
  peaks,
} from '../../packages/core/dist/index.js';
import { lookAtFilm } from '../../packages/media/dist/clip/film-look.js';
import { probe } from '../../packages/media/dist/probe/probe.js';
import { hearAll, hearSound } from '../../packages/media/dist/sound/sound.js';
import { measuresOf } from './cut-measures.mjs';

const root = resolve(import.meta.dirname, '../..');
const FOREIGN = process.env['BLUSTER_FOREIGN'] ?? '/tmp/foreign';
const SHAPE = { width: 1280, height: 720, rate: { num: 30, den: 1 } };
const WISH = /** @type {const} */ ({ lively: 0.5, free: 0.4, seed: 1, order: 'match' });
const CLIP = /[.](mp4|mov|mkv|webm|avi|mts|3gp)$/;

/** Clips of a folder as footage, and what was seen in them. */
async function footageOf(folder, scratch) {
  const items = [];
  const clips = {};
  for (const name of (await readdir(folder)).filter((n) => CLIP.test(n)).sort()) {
    const path = join(folder, name);
    const media = await probe(path, name);
    if (!media.video) continue;
    const { summary } = await lookAtFilm(path, join(scratch, 'strip.jpg'), media);
    clips[name] = summary;
    items.push(footageItem(name, 'clip', name, { ...media.video, frames: summary.frames, hasSound: media.sound !== null }));
  }
  return { items, clips };
}

async function songOf(path) {
  const meter = new OnsetMeter(ANALYSIS_RATE);
  await hearSound(path, (samples) => meter.push(samples));
  const { signal, onsets } = meter.finish();
  return { detection: detectIn(signal, onsets), outline: peaks({ samples: await hearAll(path), rate: ANALYSIS_RATE }) };
}

/** A cut on every bar, filled in story order: the line to beat. */
function everyBar(montage) {
  const hung = carryOut(montage, { do: 'hangByRule', rule: { kind: 'pulse', unit: 'bar', every: 1 } });
  return fill(hung, FILL_DEFAULTS);
}

export async function benchFirstCut() {
  const scratch = await mkdtemp(join(tmpdir(), 'bluster-cut-bench-'));
  try {
    const demo = {
      clips: 'demo/media',
      songs: ['demo/media/gust-on-the-down.ogg', 'demo/songs/night-fliers.ogg', 'demo/songs/high-thermals.ogg'],
    };
    const sets = [{ name: 'demo', clips: join(root, demo.clips), songs: demo.songs.map((s) => join(root, s)) }];
    const strange = await readdir(join(FOREIGN, 'songs')).catch(() => []);
    if (strange.length > 0)
      sets.push({
        name: 'foreign',
        clips: join(FOREIGN, 'clips'),
        songs: strange
          .filter((n) => n.endsWith('.wav'))
          .slice(0, 3)
          .map((n) => join(FOREIGN, 'songs', n)),
      });
    const measures = [];
    for (const set of sets) {
      const { items, clips } = await footageOf(set.clips, scratch);
      const rows = [];
      for (const path of set.songs) {
        const { detection, outline } = await songOf(path);
        let montage = { ...emptyMontage(), shape: SHAPE };
        montage = carryOut(montage, { do: 'setSong', assetId: 'song', name: path, length: detection.length });
        montage = carryOut(montage, { do: 'takeDetection', detection });
        montage = carryOut(montage, { do: 'addFootage', items });
        const seen = { peaks: outline, clips };
        const [cut, bars] = [measuresOf(firstCut(montage, WISH, seen).montage, seen), measuresOf(everyBar(montage), seen)];
        if (process.env['BLUSTER_EACH']) console.log(path.split('/').at(-1), JSON.stringify({ cut, bars }));
        rows.push({ cut, bars });
      }
      const mean = (of) => rows.reduce((sum, row) => sum + of(row), 0) / rows.length;
      const add = (what, of, bound, unit = '') =>
        measures.push(
          { what: `${set.name}: ${what}`, value: mean((r) => of(r.cut)), unit, ...bound(mean((r) => of(r.bars))) },
          { what: `${set.name}: the same, every bar in story order`, value: mean((r) => of(r.bars)), unit },
        );
      add(
        'motion goes with the music (rank correlation)',
        (m) => m.agreement,
        (bars) => ({ least: Math.max(0.3, Math.round(100 * bars) / 100) }),
      );
      add(
        'hits that are seen within a frame of an accent or bar',
        (m) => 100 * m.onMarks,
        (bars) => ({ least: Math.round(bars) }),
        ' %',
      );
      add(
        'slots whose clip was seen in the eight before',
        (m) => 100 * m.repeats,
        (bars) => ({ limit: Math.max(Math.round(bars), 5) }),
        ' %',
      );
      add(
        'lengths of slots that can be foretold',
        (m) => 100 * m.predictable,
        () => ({ limit: 40 }),
        ' %',
      );
      add(
        'gaps',
        (m) => m.gaps,
        () => ({ limit: 0 }),
      );
    }
    return measures;
  } finally {
    await rm(scratch, { recursive: true, force: true });
  }
}
