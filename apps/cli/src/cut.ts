import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';
import { access, constants } from 'node:fs/promises';
import {
  FILL_DEFAULTS,
  SONG_RATE,
  UNDESCRIBED,
  carryOut,
  emptyMontage,
  fill,
  firstCut,
  knowledgeFrom,
  ORDERS,
  readMarks,
  type FillOrder,
  scoreOf,
  syncReport,
  type FootageItem,
  type FrameRate,
  type Montage,
  type SeenMaterial,
  type PegRule,
  withFoundHits,
} from '@bluster/core';
import { renderFilm } from '@bluster/media/film/film';
import { photoFocus, photoKindOf, preparePhoto } from '@bluster/media/photo/photo';
import { probe, type MediaProbe } from '@bluster/media/probe/probe';
import { WavFile, soundToWav } from '@bluster/media/sound/sound';
import { findBeats } from './beats.ts';
import { lookAtClips, seenMaterial } from './best-match.ts';
import { decodeSong, existing } from './song-file.ts';
import { InputError } from './usage.ts';
import { untilStopped } from './stopping.ts';

export interface CutOptions {
  readonly song: string;
  readonly footage: readonly string[];
  readonly every: PegRule;
  readonly out: string;
  readonly width: number;
  readonly height: number;
  readonly rate: FrameRate;
  readonly order: FillOrder;
  readonly seed: number;
  readonly marks?: string | undefined;
  readonly report?: string | undefined;
  /** told what is going on, for standard error */
  readonly say: (text: string) => void;
  readonly signal: AbortSignal;
}

interface Material {
  readonly item: FootageItem;
  readonly path: string;
  /** null for a photo */
  readonly media: MediaProbe | null;
}

async function material(path: string, index: number, scratch: string): Promise<Material> {
  const name = basename(await existing(path));
  const assetId = `f${index}`;
  if (await photoKindOf(path)) {
    const upright = join(scratch, `${assetId}.jpg`);
    const size = await preparePhoto(path, upright, name);
    const focus = await photoFocus(upright);
    return {
      path: upright,
      media: null,
      item: { assetId, kind: 'photo', name, ...size, rate: { num: 1, den: 1 }, frames: 1, hasSound: false, ...UNDESCRIBED, focus },
    };
  }
  const media = await probe(path, name);
  if (!media.video) throw new InputError(`"${name}" has no picture in it, so it cannot be footage. Leave it out, or give it with --song.`);
  const { width, height, rate, frames } = media.video;
  return {
    path,
    media,
    item: { assetId, kind: 'clip', name, width, height, rate, frames, hasSound: media.sound !== null, ...UNDESCRIBED },
  };
}

async function writable(path: string): Promise<void> {
  await access(dirname(resolve(path)), constants.W_OK).catch(() => {
    throw new InputError(`The folder of "${path}" is not there or cannot be written. Choose another place.`);
  });
}

/** What a film is made of. */
interface Planned {
  readonly montage: Montage;
  readonly materials: readonly Material[];
  /** the song's sound, as WAV */
  readonly wav: string;
}

/** Takes material and song in, marks it, hangs pegs and fills. @param scratch folder for what is made on the way */
async function planned(options: CutOptions, scratch: string): Promise<Planned> {
  const { say } = options;
  const materials: Material[] = [];
  for (const [i, path] of options.footage.entries()) materials.push(await material(path, i, scratch));

  const songName = basename(await existing(options.song));
  const marking = options.marks ? readMarks(basename(options.marks), await readFile(await existing(options.marks))) : null;
  say('marking the song');
  const detection = marking ? null : await findBeats(options.song);
  const wav = join(scratch, 'song.wav');
  const { seconds: length } = await decodeSong(options.song, async () => {
    await soundToWav(options.song, wav);
    const sound = await WavFile.open(wav);
    await sound.close();
    return { seconds: sound.length / SONG_RATE };
  });

  let montage: Montage = { ...emptyMontage(), shape: { width: options.width, height: options.height, rate: options.rate } };
  montage = carryOut(montage, { do: 'setSong', assetId: 'song', name: songName, length });
  if (marking) {
    const outside = marking.marks.filter((m) => m.time > length).length;
    if (outside === marking.marks.length)
      throw new InputError(`All times in "${options.marks}" lie after the end of the song (${length.toFixed(1)} s).`);
    if (outside > 0) say(`${outside} marks lie after the end of the song and are left out`);
    // Mere times are beats in fours; a file that knows of bars is taken as it is.
    montage = marking.marks.some((m) => m.kind === 'bar')
      ? carryOut(montage, { do: 'takeMarking', marking })
      : carryOut(montage, { do: 'takeBeatTimes', times: marking.marks.map((m) => m.time), metre: 4 });
  } else montage = carryOut(montage, { do: 'takeDetection', detection: detection! });
  montage = carryOut(montage, { do: 'addFootage', items: materials.map((m) => m.item) });
  const look = async (): Promise<SeenMaterial> => {
    const clips = materials.flatMap(({ item, path, media }) => (media ? [{ ...item, path, media }] : []));
    return seenMaterial(wav, await lookAtClips(clips, scratch, say));
  };
  const { every, order, seed } = options;
  if (every.kind === 'pace' && (order === 'match' || order === 'story')) {
    const made = firstCut(montage, { ...every, seed, order }, await look());
    montage = made.montage;
    made.said.forEach(say);
  } else {
    montage = carryOut(montage, { do: 'hangByRule', rule: every });
    const filling = { ...FILL_DEFAULTS, order, seed, tooShort: 'next' } as const;
    const seen = ORDERS[order].matches ? await look() : null;
    if (seen) montage = withFoundHits(montage, seen);
    montage = fill(montage, filling, seen ? knowledgeFrom(montage, seen) : undefined);
  }
  const score = scoreOf(montage);
  say(`${score.slots.length} slots, ${score.frames} frames`);
  return { montage, materials, wav };
}

/**
 * The whole job without a screen: marks, pegs, shots, film.
 * @throws CancelledError when the signal says so, with nothing left behind
 */
export async function cut(options: CutOptions): Promise<void> {
  const { say, signal } = options;
  await writable(options.out);
  if (options.report) await writable(options.report);
  const scratch = await mkdtemp(join(tmpdir(), 'bluster-cut-'));
  try {
    const { montage, materials, wav } = await untilStopped(planned(options, scratch), signal);
    const byId = new Map(materials.map((m) => [m.item.assetId, m]));
    let last = -1;
    await renderFilm(
      montage,
      { picturePath: (id) => byId.get(id)!.path, video: (id) => byId.get(id)!.media?.video ?? null, soundPath: () => wav },
      resolve(options.out),
      {
        signal,
        onFrame: (done, total) => {
          const percent = Math.floor((100 * done) / total);
          if (percent !== last) say(`film ${(last = percent)} %`);
        },
      },
    );
    const report = syncReport(montage);
    if (options.report)
      await writeFile(options.report, `${JSON.stringify({ film: options.out, song: options.song, ...report }, null, 2)}\n`);
    say(`done: ${report.cuts.length} cuts, worst error ${report.worstErrorMs.toFixed(1)} ms`);
  } finally {
    // Where it was stopped, something may still be writing there.
    await rm(scratch, { recursive: true, force: true, maxRetries: 3 });
  }
}
