import { Injectable, NotFoundException, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { writeFile } from 'node:fs/promises';
import { Repository } from 'typeorm';
import { ANALYSIS_RATE, SONG_RATE, findTransients } from '@bluster/core';
import { JobsService, type JobContext } from '../jobs/jobs.service.ts';
import { lookAtFilm } from '../media/film-look.ts';
import { stripPictures } from '../media/filmstrip.ts';
import { photoThumbnail, preparePhoto } from '../media/photo.ts';
import { writePack } from '../media/picture-pack.ts';
import { probe, type MediaProbe } from '../media/probe.ts';
import { makeProxy } from '../media/proxy.ts';
import { LONGEST_SONG_S, WavFile, hearAll, soundToWav } from '../media/sound.ts';
import { soundCurve } from '../media/sound-curve.ts';
import { AssetEntity, type AssetInfo } from './asset.entity.ts';
import { AssetFiles } from './asset-files.ts';

const THUMB_HEIGHT = 180;
/** The part of the work on a film that looking at it is. */
const LOOK_PART = 0.35;
/** Proposed hits that lists of files carry. */
const HITS_LISTED = 12;

/** Makes files that were taken in ready: what is decoded, looked at and heard once, so that nobody waits for it later. */
@Injectable()
export class AssetPreparation implements OnModuleInit {
  constructor(
    @InjectRepository(AssetEntity) private readonly assets: Repository<AssetEntity>,
    private readonly files: AssetFiles,
    private readonly jobs: JobsService,
  ) {}

  onModuleInit(): void {
    this.jobs.handle(
      'prepare',
      (context) => this.prepare(context),
      async (job, problem) => {
        await this.assets.update(String(job.payload['assetId']), { state: 'failed', problem });
      },
    );
  }

  private async prepare({ job, signal, progress }: JobContext): Promise<null> {
    const asset = await this.assets.findOneBy({ id: String(job.payload['assetId']) });
    if (!asset) throw new NotFoundException('There is no such file.');
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
}

/** Where a sound effect strikes, seconds; its start where nothing in it does. */
async function strongestAttack(wav: string): Promise<number> {
  const transients = findTransients({ samples: await hearAll(wav), rate: ANALYSIS_RATE });
  return transients.reduce((best, t) => (t.strength > best.strength ? t : best), { time: 0, strength: 0 }).time;
}
