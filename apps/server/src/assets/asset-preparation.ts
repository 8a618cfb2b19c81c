import { Injectable, NotFoundException, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { randomUUID } from 'node:crypto';
import { readFile, rm, writeFile } from 'node:fs/promises';
import { Repository, type QueryDeepPartialEntity } from 'typeorm';
import { ANALYSIS_RATE, SONG_RATE, findTransients } from '@bluster/core';
import type { JobEntity } from '../jobs/job.entity.ts';
import { JobsService, type JobContext } from '../jobs/jobs.service.ts';
import { glanceAtFilm } from '@bluster/media/clip/film-glance';
import { lookAtFilm, type FilmLooked } from '@bluster/media/clip/film-look';
import { picturesOf } from '@bluster/media/clip/filmstrip';
import { photoFocus, photoThumbnail, preparePhoto } from '@bluster/media/photo/photo';
import { writePack } from '@bluster/media/clip/picture-pack';
import { MediaProgramError, OutgrownError, type RunOptions } from '@bluster/media/program/run';
import { makeWhole } from '@bluster/media/program/whole-file';
import type { MediaProbe } from '@bluster/media/probe/probe';
import { makeProxy } from '@bluster/media/clip/proxy';
import { LONGEST_SONG_S, WavFile, hearAll, soundToWav } from '@bluster/media/sound/sound';
import { soundCurve } from '@bluster/media/sound/sound-curve';
import type { AssetInfo } from '@bluster/wire';
import { ChangesService } from '../changes/changes.service.ts';
import { Config } from '../config.ts';
import { DiskRoom, NoRoomError, spoken } from '../keeping/disk-room.ts';
import { AssetEntity } from './asset.entity.ts';
import { AssetFiles } from './asset-files.ts';
import { MediaProbes } from './media-probes.ts';

const THUMB_HEIGHT = 180;
/** Rises when what is made of a file, or how, becomes another: only what was made alike is shared. */
export const PREPARED_AS = 1;
/** Proposed hits that lists of files carry. */
const HITS_LISTED = 12;

/** Makes files that were taken in ready: what is decoded, looked at and heard once, so that nobody waits for it later. */
@Injectable()
export class AssetPreparation implements OnModuleInit {
  constructor(
    @InjectRepository(AssetEntity) private readonly assets: Repository<AssetEntity>,
    private readonly files: AssetFiles,
    private readonly probes: MediaProbes,
    private readonly jobs: JobsService,
    private readonly changes: ChangesService,
    private readonly room: DiskRoom,
    private readonly config: Config,
  ) {}

  onModuleInit(): void {
    const failed = async (job: JobEntity, problem: string): Promise<void> => {
      await this.update({ id: String(job.payload['assetId']), projectId: job.projectId }, { state: 'failed', problem });
    };
    this.jobs.handle('prepare', (context) => this.prepare(context), failed);
    this.jobs.handle('look', (context) => this.prepareLook(context), failed);
    this.jobs.handle('proxy', (context) => this.prepareProxy(context), failed);
  }

  private async update({ id, projectId }: Pick<AssetEntity, 'id' | 'projectId'>, to: QueryDeepPartialEntity<AssetEntity>): Promise<void> {
    await this.assets.update(id, to);
    this.changes.tell('asset', projectId, id);
  }

  private async prepare(context: JobContext): Promise<null> {
    const { job, signal, progress } = context;
    const asset = await this.assets.findOneBy({ id: String(job.payload['assetId']) });
    if (!asset) throw new NotFoundException('There is no such file.');
    if (asset.kind === 'clip') return this.prepareClip(asset, context);
    if (asset.kind === 'face') {
      await this.update(asset, { info: { ...asset.info, preparedAs: PREPARED_AS }, state: 'ready', problem: null });
      return null;
    }
    await this.requireRoom(asset);
    const path = (part: Parameters<AssetFiles['path']>[1]): string => this.files.path(asset.id, part);
    let info: AssetInfo;
    if (asset.kind === 'photo') {
      const size = await makeWhole(path('photo'), (to) => preparePhoto(path('original'), to, asset.name));
      await makeWhole(path('thumb'), (to) => photoThumbnail(path('photo'), to, THUMB_HEIGHT));
      info = { ...asset.info, ...size, focus: await photoFocus(path('photo')) };
    } else {
      const length = asset.info.length || 1;
      const channels = (await this.probes.of(asset, signal)).sound?.channels;
      const heard = { signal, channels, limit: LONGEST_SONG_S, onSeconds: (s: number) => progress(s / length) };
      await makeWhole(path('sound'), (to) => soundToWav(path('original'), to, heard));
      const wav = await WavFile.open(path('sound'));
      await wav.close();
      info = {
        ...asset.info,
        length: wav.length / SONG_RATE,
        ...(asset.kind === 'sound' ? { hit: await strongestAttack(path('sound')) } : {}),
      };
    }
    await this.update(asset, { info: { ...info, preparedAs: PREPARED_AS }, state: 'ready', problem: null });
    return null;
  }

  /** Room for the sound of a file and its small pictures. @throws NoRoomError */
  private requireRoom({ name, info }: AssetEntity): Promise<void> {
    return this.room.require((info.length ?? 0) * SOUND_BYTES_A_SECOND + PICTURES_BYTES, `Making "${name}" ready`);
  }

  /** The first turn of a clip: a glance, where that tells enough to cut it. It is looked at in the second, and its proxy made in the third. */
  private async prepareClip(asset: AssetEntity, { job, signal }: JobContext): Promise<null> {
    // Where the server was stopped between two turns, it has been glanced or looked at.
    if (!asset.info.strip) await this.glanceAtClip(asset, signal);
    await this.nextTurn('look', asset, job, signal);
    return null;
  }

  private async nextTurn(
    kind: 'look' | 'proxy',
    { id, projectId }: AssetEntity,
    { payload }: JobEntity,
    signal: AbortSignal,
  ): Promise<void> {
    signal.throwIfAborted();
    if (!(await this.jobs.isUnderWay(kind, (other) => other.payload['assetId'] === id)))
      await this.jobs.add(projectId, kind, { ...payload });
  }

  /** Counts a clip's frames and makes a rough filmstrip, where that takes a moment: it can be cut from then on. */
  private async glanceAtClip(asset: AssetEntity, signal: AbortSignal): Promise<void> {
    await this.requireRoom(asset);
    const media = await this.probes.of(asset, signal);
    try {
      const glance = await glanceAtFilm(this.files.path(asset.id, 'original'), media, { signal });
      if (!glance) return;
      await writePack(this.files.path(asset.id, 'tiles'), glance.pictures);
      const { num, den } = media.video!.rate;
      const { frames, movement } = glance;
      const info: AssetInfo = { ...asset.info, frames, length: (frames * den) / num, strip: { ...glance.strip, rough: true }, movement };
      await this.update(asset, { info });
    } catch (error) {
      // What a glance fails at, the look will tell in words.
      if (!(error instanceof MediaProgramError)) throw error;
    }
  }

  /** The second turn of a clip: all its frames are looked at. */
  private async prepareLook({ job, signal, progress }: JobContext): Promise<null> {
    const asset = await this.assets.findOneBy({ id: String(job.payload['assetId']) });
    // It may have been discarded since it came.
    if (!asset) return null;
    if (!asset.info.looked) await this.lookAtClip(asset, signal, progress);
    if (this.config.makesPreviews) await this.nextTurn('proxy', asset, job, signal);
    return null;
  }

  /** Looks at a clip and listens to it: all that is known of it is known from then on. */
  private async lookAtClip(asset: AssetEntity, signal: AbortSignal, progress: (part: number) => void): Promise<void> {
    const path = (part: Parameters<AssetFiles['path']>[1]): string => this.files.path(asset.id, part);
    await this.requireRoom(asset);
    const media = await this.probes.of(asset, signal);
    const length = media.length || 1;
    const timeLimit = timeLimitOf(length, asset.size);
    const look = { signal, timeLimit, onSeconds: (s: number) => progress(s / length) };
    const { strip, summary, damaged, pictures } = await this.lookAtPictures(asset, media, look);
    const { rate } = media.video!;
    const seen = (summary.frames * rate.den) / rate.num;
    const soundCurve = media.sound ? await this.prepareSound(asset, media, { signal, timeLimit, limit: seen + SOUND_AFTER_S }) : [];
    await makeWhole(path('look'), (to) => writeFile(to, JSON.stringify({ ...summary, soundCurve })));
    await writePack(path('tiles'), pictures);
    await makeWhole(path('thumb'), (to) => writeFile(to, pictures[pictures.length >> 1]!));
    const { movement, brightness, sharpness, colours } = summary;
    const looked: AssetInfo = {
      ...asset.info,
      frames: summary.frames,
      length: seen,
      strip,
      looked: true,
      ...(damaged ? { damaged } : {}),
      ...{ movement, brightness, sharpness, colours },
      hits: summary.hits.slice(0, HITS_LISTED),
      changes: summary.changes.length,
    };
    await this.update(asset, { info: looked, ...(this.config.makesPreviews ? {} : { state: 'ready', problem: null }) });
  }

  /** Looks at all frames of a clip; its small pictures come from the same decode. */
  private async lookAtPictures(
    { id }: AssetEntity,
    media: MediaProbe,
    how: RunOptions,
  ): Promise<FilmLooked & { pictures: readonly Buffer[] }> {
    const picturesTo = `${this.files.path(id, 'tiles')}.${randomUUID()}.part`;
    try {
      const looked = await makeWhole(this.files.path(id, 'strip'), (to) =>
        lookAtFilm(this.files.path(id, 'original'), to, media, { ...how, picturesTo }),
      );
      return { ...looked, pictures: picturesOf(await readFile(picturesTo), looked.strip.pictures) };
    } finally {
      await rm(picturesTo, { force: true });
    }
  }

  /** Makes a clip's proxy, by which any of its frames is near. */
  private async prepareProxy({ job, signal, progress }: JobContext): Promise<null> {
    const asset = await this.assets.findOneBy({ id: String(job.payload['assetId']) });
    // It may have been discarded since it was looked at.
    if (!asset) return null;
    const media = await this.probes.of(asset, signal);
    const length = media.length || 1;
    await this.room.require(Math.min(length * PREVIEW_BYTES_A_SECOND, largestPreview(asset.size)), `The preview of "${asset.name}"`);
    const [from, to] = [this.files.path(asset.id, 'original'), this.files.path(asset.id, 'proxy')];
    const [left, most] = [await this.room.left(), largestPreview(asset.size)];
    const options = {
      signal,
      timeLimit: timeLimitOf(length, asset.size),
      writes: Math.min(most, left),
      onSeconds: (s: number) => progress(s / length),
    };
    const made = await makeWhole(to, (unfinished) => makeProxy(from, unfinished, media, options)).catch((error: unknown) => {
      if (!(error instanceof OutgrownError) || left >= most) throw error;
      throw new NoRoomError(`The preview of "${asset.name}" needs more than ${spoken(left)}, and Bluster leaves the rest free to save in.`);
    });
    const { frames = made } = asset.info;
    const info = { ...asset.info, frames: Math.min(made, frames), preparedAs: PREPARED_AS };
    await this.update(asset, { info, state: 'ready', problem: null });
    return null;
  }

  /** The sound of a film, running with its picture, and how loud it is over time. */
  private async prepareSound(asset: AssetEntity, media: MediaProbe, how: RunOptions & { readonly limit: number }): Promise<number[]> {
    const wav = this.files.path(asset.id, 'sound');
    const options = { ...how, channels: media.sound!.channels, advance: media.video!.start - media.sound!.start };
    await makeWhole(wav, (to) => soundToWav(this.files.path(asset.id, 'original'), to, options));
    return soundCurve(wav);
  }
}

/**
 * How long work on a clip may take, ms, by its length in seconds and by what there is of it in bytes: a small file may claim any
 * length.
 */
const timeLimitOf = (length: number, bytes: number): number => 10 * 60_000 + Math.min(length * 20_000, bytes / SLOWEST_BYTES_A_MS);
/** Of a clip's sound is kept what goes with its pictures, and so many seconds: a small file may claim hours of silence. */
const SOUND_AFTER_S = 1;
const SOUND_BYTES_A_SECOND = 176_400;
/** What filmstrips, small pictures and upright copies take, at most. */
const PICTURES_BYTES = 20e6;
/** What a preview takes, as a rule. */
const PREVIEW_BYTES_A_SECOND = 500_000;
/** A preview that grows larger than this is stopped: a small file may claim any number of pictures. */
const largestPreview = (bytes: number): number => 256e6 + 40 * bytes;
/** 100 kB a second is slower than any computer works through a film. */
const SLOWEST_BYTES_A_MS = 100;

/** Where a sound effect strikes, seconds; its start where nothing in it does. */
async function strongestAttack(wav: string): Promise<number> {
  const transients = findTransients({ samples: await hearAll(wav), rate: ANALYSIS_RATE });
  return transients.reduce((best, t) => (t.strength > best.strength ? t : best), { time: 0, strength: 0 }).time;
}
