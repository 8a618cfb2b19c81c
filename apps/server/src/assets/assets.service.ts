import { Injectable, NotFoundException, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { randomUUID } from 'node:crypto';
import { copyFile, link, mkdir, open, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { Repository } from 'typeorm';
import { Config } from '../config.ts';
import { JobsService, type JobContext } from '../jobs/jobs.service.ts';
import type { JobEntity } from '../jobs/job.entity.ts';
import { prepareClip } from '../media/clip.ts';
import { looksLikePhoto, photoThumbnail, preparePhoto } from '../media/photo.ts';
import { UnusableMediaError, probe, type MediaProbe } from '../media/probe.ts';
import { LONGEST_SONG_S, WavFile, soundToWav } from '../media/sound.ts';
import { soundCurve } from '../media/sound-curve.ts';
import { SONG_RATE } from '@bluster/core';
import { AssetEntity, type AssetInfo, type AssetKind } from './asset.entity.ts';
import { AssetFiles, displayName } from './asset-files.ts';

/** What a file is brought in as. */
export type AssetRole = 'song' | 'footage';

const SHORTEST_SONG_S = 3;
const LONGEST_CLIP_S = 6 * 3600;
const THUMB_HEIGHT = 180;

/** Takes files in, and has them made ready. */
@Injectable()
export class AssetsService implements OnModuleInit {
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
    // Uploads that were cut off when the server stopped last are of no use.
    for (const name of await readdir(this.config.incomingFolder)) await rm(join(this.config.incomingFolder, name), { force: true });
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
   * Takes in a file that lies in the incoming folder; it is moved from there, or removed when it cannot be used.
   * @throws UnusableMediaError with the reason and the way out
   */
  async takeIn(projectId: string, incoming: string, rawName: string, role: AssetRole): Promise<AssetEntity> {
    const name = displayName(rawName);
    try {
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
        createdAt: Date.now(),
      });
      await this.jobs.add(projectId, 'prepare', { assetId: id });
      return asset;
    } catch (error) {
      await rm(incoming, { force: true });
      throw error;
    }
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
      return { kind: 'photo', info: { width, height } };
    }
    const media = await probe(path, name);
    if (!media.video)
      throw new UnusableMediaError(`"${name}" has sound but no picture. Bring it in as the song in Song, or choose a video.`);
    if (media.length > LONGEST_CLIP_S) throw new UnusableMediaError(`"${name}" is longer than six hours. Cut out the part you want.`);
    const { width, height, rate, frames, codec } = media.video;
    return { kind: 'clip', info: { length: media.length, width, height, rate, frames, codec, hasSound: media.sound !== null } };
  }

  private async prepare({ job, signal, progress }: JobContext): Promise<null> {
    const asset = await this.find(String(job.payload['assetId']));
    const path = (part: Parameters<AssetFiles['path']>[1]): string => this.files.path(asset.id, part);
    let info: AssetInfo;
    if (asset.kind === 'photo') {
      const size = await preparePhoto(path('original'), path('photo'), asset.name);
      await photoThumbnail(path('photo'), path('thumb'), THUMB_HEIGHT);
      info = { ...asset.info, ...size };
    } else if (asset.kind === 'song') {
      const length = asset.info.length || 1;
      await soundToWav(path('original'), path('sound'), { signal, limit: LONGEST_SONG_S, onSeconds: (s) => progress(s / length) });
      const wav = await WavFile.open(path('sound'));
      await wav.close();
      info = { ...asset.info, length: wav.length / SONG_RATE };
    } else {
      info = { ...asset.info, ...(await this.prepareFilm(asset, await probe(path('original'), asset.name, signal), signal, progress)) };
    }
    await this.assets.update(asset.id, { info: info, state: 'ready', problem: null });
    return null;
  }

  private async prepareFilm(
    asset: AssetEntity,
    media: MediaProbe,
    signal: AbortSignal,
    progress: (part: number) => void,
  ): Promise<AssetInfo> {
    const path = (part: Parameters<AssetFiles['path']>[1]): string => this.files.path(asset.id, part);
    const length = media.length || 1;
    const limit = Math.max(10 * 60_000, length * 20_000);
    const { strip, frames } = await prepareClip(path('original'), path('proxy'), path('strip'), media, {
      signal,
      timeLimit: limit,
      onSeconds: (s) => progress((0.9 * s) / length),
    });
    const middle = Math.floor(strip.pictures / 2);
    await sharp(path('strip'))
      .extract({
        left: (middle % strip.columns) * strip.width,
        top: Math.floor(middle / strip.columns) * strip.height,
        width: strip.width,
        height: strip.height,
      })
      .jpeg({ quality: 80 })
      .toFile(path('thumb'));
    let curve: number[] | undefined;
    if (media.sound) {
      await soundToWav(path('original'), path('sound'), { signal, advance: media.video!.start - media.sound.start, timeLimit: limit });
      curve = await soundCurve(path('sound'));
    }
    const { rate } = media.video!;
    return { frames, length: (frames * rate.den) / rate.num, strip, ...(curve ? { soundCurve: curve } : {}) };
  }

  private async prepareFailed(job: JobEntity, problem: string): Promise<void> {
    await this.assets.update(String(job.payload['assetId']), { state: 'failed', problem });
  }
}
