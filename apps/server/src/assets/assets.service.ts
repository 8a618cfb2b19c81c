import { Injectable, NotFoundException, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { copyFile, link, mkdir, open, readFile, readdir, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import sharp from 'sharp';
import { Not, Repository } from 'typeorm';
import { Config } from '../config.ts';
import { JobsService, type JobContext } from '../jobs/jobs.service.ts';
import type { JobEntity } from '../jobs/job.entity.ts';
import { lookAtFilm } from '../media/film-look.ts';
import { stripPictures } from '../media/filmstrip.ts';
import { readPacked, writePack } from '../media/picture-pack.ts';
import { makeProxy } from '../media/proxy.ts';
import { looksLikePhoto, photoTakenAt, photoThumbnail, preparePhoto } from '../media/photo.ts';
import { UnusableMediaError, probe, type MediaProbe } from '../media/probe.ts';
import { LONGEST_SONG_S, WavFile, hearAll, soundToWav } from '../media/sound.ts';
import { soundCurve } from '../media/sound-curve.ts';
import { ANALYSIS_RATE, SONG_RATE, findTransients } from '@bluster/core';
import { AssetEntity, type AssetInfo, type AssetKind } from './asset.entity.ts';
import { AssetFiles, displayName } from './asset-files.ts';

/** What a file is brought in as. */
export type AssetRole = 'song' | 'footage';

const SHORTEST_SONG_S = 3;
const LONGEST_CLIP_S = 6 * 3600;
/** The longest sound effect, seconds. */
const LONGEST_EFFECT_S = 600;
const THUMB_HEIGHT = 180;
/** The part of the work on a film that looking at it is. */
const LOOK_PART = 0.35;
/** Proposed hits that lists of files carry. */
const HITS_LISTED = 12;

/** Takes files in, and has them made ready. */
@Injectable()
export class AssetsService implements OnModuleInit {
  /** the last file that is being taken in */
  private taking: Promise<unknown> = Promise.resolve();
  /** filmstrips that are being cut into their pictures, by asset */
  private readonly packing = new Map<string, Promise<void>>();

  constructor(
    @InjectRepository(AssetEntity) private readonly assets: Repository<AssetEntity>,
    private readonly files: AssetFiles,
    private readonly jobs: JobsService,
    private readonly config: Config,
  ) {}

  async onModuleInit(): Promise<void> {
    this.jobs.handle(
      'prepare',
      (context) => this.prepare(context),
      (job, problem) => this.prepareFailed(job, problem),
    );
    // Plain uploads that were cut off when the server stopped last are of no use; resumable ones lie in a folder of their own.
    for (const entry of await readdir(this.config.incomingFolder, { withFileTypes: true }))
      if (entry.isFile()) await rm(join(this.config.incomingFolder, entry.name), { force: true });
  }

  list(projectId: string): Promise<AssetEntity[]> {
    return this.assets.find({ where: { projectId }, order: { createdAt: 'ASC' } });
  }

  async find(id: string): Promise<AssetEntity> {
    const asset = await this.assets.findOneBy({ id });
    if (!asset) throw new NotFoundException('There is no such file.');
    return asset;
  }

  /**
   * Takes in a file that lies in the incoming folder; it is moved from there, or removed when it cannot be used. A file
   * that the project has already, by its hash, is kept once: what comes back is the asset that is there.
   * @throws UnusableMediaError with the reason and the way out
   */
  async takeIn(projectId: string, incoming: string, rawName: string, role: AssetRole): Promise<AssetEntity> {
    // One after the other, so that the same file coming twice at once is seen to be the same.
    const taken = this.taking.then(() => this.takeOne(projectId, incoming, rawName, role));
    this.taking = taken.catch(() => undefined);
    return taken;
  }

  private async takeOne(projectId: string, incoming: string, rawName: string, role: AssetRole): Promise<AssetEntity> {
    const name = displayName(rawName);
    try {
      const hash = await hashOf(incoming);
      const there = await this.assets.findBy({ projectId, hash, state: Not('failed') });
      const same = there.find((a) => (a.kind === 'song') === (role === 'song'));
      if (same) {
        await rm(incoming, { force: true });
        return same;
      }
      const { kind, info } = role === 'song' ? await this.lookAtSong(incoming, name) : await this.lookAtFootage(incoming, name);
      const id = randomUUID();
      await mkdir(this.files.folder(id), { recursive: true });
      const file = await open(incoming, 'r');
      const { size } = await file.stat().finally(() => file.close());
      await rename(incoming, this.files.path(id, 'original'));
      const asset = await this.assets.save({
        id,
        projectId,
        kind,
        name,
        size,
        state: 'working' as const,
        problem: null,
        info,
        hash,
        createdAt: Date.now(),
      });
      await this.jobs.add(projectId, 'prepare', { assetId: id });
      return asset;
    } catch (error) {
      await rm(incoming, { force: true });
      throw error;
    }
  }

  /** One picture of a filmstrip, JPEG. @throws NotFoundException where there is none */
  async tile(id: string, picture: number): Promise<Buffer> {
    const path = this.files.path(id, 'tiles');
    if (!existsSync(path)) await this.packTiles(id);
    const tile = await readPacked(path, picture);
    if (!tile) throw new NotFoundException('There is no such picture in its filmstrip.');
    return tile;
  }

  /** Several small pictures at once, in the order asked for; null where there is none. */
  tiles(wanted: readonly { readonly id: string; readonly picture: number }[]): Promise<(Buffer | null)[]> {
    return Promise.all(wanted.map(({ id, picture }) => this.tile(id, picture).catch(() => null)));
  }

  /** Cuts a filmstrip that was made before its pictures were kept one by one; asked for many at once, it is done once. */
  private async packTiles(id: string): Promise<void> {
    const { strip } = (await this.find(id)).info;
    const thumb = this.files.path(id, 'thumb');
    if (!strip && !existsSync(thumb)) throw new NotFoundException('This file has no pictures.');
    let packing = this.packing.get(id);
    if (!packing) {
      const pictures = strip ? stripPictures(this.files.path(id, 'strip'), strip) : readFile(thumb).then((only) => [only]);
      packing = pictures.then((all) => writePack(this.files.path(id, 'tiles'), all));
      this.packing.set(id, packing);
      void packing.catch(() => undefined).finally(() => this.packing.delete(id));
    }
    await packing;
  }

  /** Has a file made ready before those that wait. */
  async hurry(id: string): Promise<void> {
    await this.find(id);
    await this.jobs.hurry((job) => job.kind === 'prepare' && job.payload['assetId'] === id);
  }

  /** Calls off the work on a file and removes it. */
  async discard(id: string): Promise<void> {
    const { projectId } = await this.find(id);
    const own = (await this.jobs.list(projectId)).filter((job) => job.payload['assetId'] === id);
    for (const job of own) if (job.state === 'queued' || job.state === 'running') await this.jobs.cancel(job.id);
    await this.assets.delete(id);
    await rm(this.files.folder(id), { recursive: true, force: true });
  }

  /** Copies a project's assets for another project, sharing the files' bytes where the disk can. Returns old to new ids. */
  async copyAll(from: string, to: string): Promise<Map<string, string>> {
    const ids = new Map<string, string>();
    for (const asset of await this.list(from)) {
      const id = randomUUID();
      ids.set(asset.id, id);
      await mkdir(this.files.folder(id), { recursive: true });
      for (const part of await readdir(this.files.folder(asset.id))) {
        const [source, target] = [join(this.files.folder(asset.id), part), join(this.files.folder(id), part)];
        await link(source, target).catch(() => copyFile(source, target));
      }
      await this.assets.save({ ...asset, id, projectId: to });
      if (asset.state === 'working') await this.jobs.add(to, 'prepare', { assetId: id });
    }
    return ids;
  }

  /** Removes the files of a project for good. */
  async removeAll(projectId: string): Promise<void> {
    for (const asset of await this.list(projectId)) {
      await rm(this.files.folder(asset.id), { recursive: true, force: true });
      await this.assets.delete(asset.id);
    }
  }

  private async lookAtSong(path: string, name: string): Promise<{ kind: AssetKind; info: AssetInfo }> {
    const media = await probe(path, name);
    if (!media.sound)
      throw new UnusableMediaError(`"${name}" has no sound in it, so it cannot be the song. Choose a WAV, MP3, FLAC, OGG or M4A file.`);
    if (media.length > 0 && media.length < SHORTEST_SONG_S)
      throw new UnusableMediaError(
        `"${name}" is ${media.length.toFixed(1)} s long. A song needs at least ${SHORTEST_SONG_S} s for a beat to be found; choose a longer one.`,
      );
    if (media.length > LONGEST_SONG_S)
      throw new UnusableMediaError(`"${name}" is longer than ${LONGEST_SONG_S / 60} minutes. Cut out the part you want.`);
    return { kind: 'song', info: { length: media.length, codec: media.sound.codec, hasSound: true } };
  }

  private async lookAtFootage(path: string, name: string): Promise<{ kind: AssetKind; info: AssetInfo }> {
    const file = await open(path, 'r');
    const head = Buffer.alloc(16);
    await file.read(head, 0, 16, 0).finally(() => file.close());
    if (looksLikePhoto(head)) {
      const { width, height } = await sharp(path, { limitInputPixels: false })
        .metadata()
        .catch(() => {
          throw new UnusableMediaError(`"${name}" cannot be read as a photo; it may be damaged. Choose a JPG, PNG or WebP picture.`);
        });
      if (width * height > 180_000_000) await preparePhoto(path, '', name); // says why it is too large
      return { kind: 'photo', info: { width, height, ...taken(await photoTakenAt(path)) } };
    }
    const media = await probe(path, name);
    if (!media.video) {
      if (media.length > LONGEST_EFFECT_S)
        throw new UnusableMediaError(
          `"${name}" is ${Math.round(media.length / 60)} minutes of sound without a picture. Bring it in as the song in Song, or cut out the effect you want.`,
        );
      return { kind: 'sound', info: { length: media.length, codec: media.sound!.codec, hasSound: true } };
    }
    if (media.length > LONGEST_CLIP_S) throw new UnusableMediaError(`"${name}" is longer than six hours. Cut out the part you want.`);
    const { width, height, rate, frames, codec } = media.video;
    return {
      kind: 'clip',
      info: { length: media.length, width, height, rate, frames, codec, hasSound: media.sound !== null, ...taken(media.takenAt) },
    };
  }

  private async prepare({ job, signal, progress }: JobContext): Promise<null> {
    const asset = await this.find(String(job.payload['assetId']));
    const path = (part: Parameters<AssetFiles['path']>[1]): string => this.files.path(asset.id, part);
    let info: AssetInfo;
    if (asset.kind === 'photo') {
      const size = await preparePhoto(path('original'), path('photo'), asset.name);
      await photoThumbnail(path('photo'), path('thumb'), THUMB_HEIGHT);
      info = { ...asset.info, ...size };
    } else if (asset.kind !== 'clip') {
      const length = asset.info.length || 1;
      await soundToWav(path('original'), path('sound'), { signal, limit: LONGEST_SONG_S, onSeconds: (s) => progress(s / length) });
      const wav = await WavFile.open(path('sound'));
      await wav.close();
      info = {
        ...asset.info,
        length: wav.length / SONG_RATE,
        ...(asset.kind === 'sound' ? { hit: await strongestAttack(path('sound')) } : {}),
      };
    } else {
      info = { ...asset.info, ...(await this.prepareFilm(asset, await probe(path('original'), asset.name, signal), signal, progress)) };
    }
    await this.assets.update(asset.id, { info: info, state: 'ready', problem: null });
    return null;
  }

  /** Looks at a film first, so that it can be worked with; then its sound and its proxy follow. */
  private async prepareFilm(
    asset: AssetEntity,
    media: MediaProbe,
    signal: AbortSignal,
    progress: (part: number) => void,
  ): Promise<AssetInfo> {
    const path = (part: Parameters<AssetFiles['path']>[1]): string => this.files.path(asset.id, part);
    const length = media.length || 1;
    const timeLimit = Math.max(10 * 60_000, length * 20_000);
    const { strip, summary } = await lookAtFilm(path('original'), path('strip'), media, {
      signal,
      timeLimit,
      onSeconds: (s) => progress((LOOK_PART * s) / length),
    });
    const soundCurve = media.sound ? await this.prepareSound(asset, media, signal, timeLimit) : [];
    await writeFile(path('look'), JSON.stringify({ ...summary, soundCurve }));
    const pictures = await stripPictures(path('strip'), strip);
    await writePack(path('tiles'), pictures);
    await writeFile(path('thumb'), pictures[pictures.length >> 1]!);
    const { rate } = media.video!;
    const { movement, brightness, sharpness, colours } = summary;
    const looked: AssetInfo = {
      ...asset.info,
      frames: summary.frames,
      length: (summary.frames * rate.den) / rate.num,
      strip,
      looked: true,
      ...{ movement, brightness, sharpness, colours },
      hits: summary.hits.slice(0, HITS_LISTED),
      changes: summary.changes.length,
    };
    await this.assets.update(asset.id, { info: looked });
    const frames = await makeProxy(path('original'), path('proxy'), media, {
      signal,
      timeLimit,
      onSeconds: (s) => progress(LOOK_PART + ((1 - LOOK_PART) * s) / length),
    });
    return { ...looked, frames: Math.min(frames, summary.frames) };
  }

  /** The sound of a film, running with its picture, and how loud it is over time. */
  private async prepareSound(asset: AssetEntity, media: MediaProbe, signal: AbortSignal, timeLimit: number): Promise<number[]> {
    const wav = this.files.path(asset.id, 'sound');
    await soundToWav(this.files.path(asset.id, 'original'), wav, {
      signal,
      advance: media.video!.start - media.sound!.start,
      timeLimit,
    });
    return soundCurve(wav);
  }

  private async prepareFailed(job: JobEntity, problem: string): Promise<void> {
    await this.assets.update(String(job.payload['assetId']), { state: 'failed', problem });
  }
}

const taken = (takenAt: number | null): Pick<AssetInfo, 'takenAt'> => (takenAt === null ? {} : { takenAt });

/** SHA-256 of a file. */
async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path, { highWaterMark: 1 << 20 }), hash);
  return hash.digest('hex');
}

/** Where a sound effect strikes, seconds; its start where nothing in it does. */
async function strongestAttack(wav: string): Promise<number> {
  const transients = findTransients({ samples: await hearAll(wav), rate: ANALYSIS_RATE });
  return transients.reduce((best, t) => (t.strength > best.strength ? t : best), { time: 0, strength: 0 }).time;
}
