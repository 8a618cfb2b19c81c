import { BadRequestException, Injectable, type OnModuleInit } from '@nestjs/common';
import { randomUUID } from 'node:crypto';
import type { ExportRequest } from '@bluster/wire';
import { readFile, rm, writeFile } from 'node:fs/promises';
import { DEFAULT_PRESET, filmPresetNamed, filmSize, qualityOf, type FilmWish } from '@bluster/core';
import { filmInProcess, type FilmOrder } from '@bluster/media/film/film-process';
import { makeWhole } from '@bluster/media/program/whole-file';
import { AssetFiles } from '../assets/asset-files.ts';
import { AssetsService } from '../assets/assets.service.ts';
import { MediaProbes } from '../assets/media-probes.ts';
import type { JobEntity } from '../jobs/job.entity.ts';
import { JobsService, type JobContext } from '../jobs/jobs.service.ts';
import { DiskRoom } from '../keeping/disk-room.ts';
import { MontagesService } from '../montages/montages.service.ts';
import type { MontageFacts } from '../montages/reading/montage-facts.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import { ExportFiles, wishOf } from './export-files.ts';

/** A film takes its mix along while it is made, bytes a second; its frames are reckoned at this rate. */
const SOUND_BYTES_A_SECOND = 176_400;
const FRAMES_A_SECOND = 30;
/** Footage that is hard to encode takes so much more than is usual. */
const HARD = 1.5;

/** About what a film takes on the disk while it is made, bytes. */
function bytesOf(wish: FilmWish, { length, width, height }: MontageFacts): number {
  const preset = filmPresetNamed(wish.preset);
  const size = filmSize(preset, wish.size ?? { width, height });
  const seconds = wish.stretch ? Math.max(0, Math.min(length, wish.stretch.to) - wish.stretch.from) : length;
  const bits = (preset.bits[qualityOf(preset, wish.quality)] ?? 0) * size.width * size.height * FRAMES_A_SECOND;
  return seconds * ((HARD * bits) / 8 + SOUND_BYTES_A_SECOND + preset.soundBytes);
}

/** Renders films of montages as jobs. */
@Injectable()
export class ExportsService implements OnModuleInit {
  constructor(
    private readonly made: ExportFiles,
    private readonly files: AssetFiles,
    private readonly assets: AssetsService,
    private readonly probes: MediaProbes,
    private readonly montages: MontagesService,
    private readonly jobs: JobsService,
    private readonly room: DiskRoom,
    private readonly projects: ProjectsService,
  ) {}

  onModuleInit(): void {
    this.jobs.handle(
      'export',
      (context) => this.render(context),
      (job) => rm(this.made.montage(job.id), { force: true }),
    );
  }

  /** Starts an export of the montage as it is saved now; later edits do not touch it. */
  async start(projectId: string, asked: ExportRequest): Promise<JobEntity> {
    const wish: FilmWish = { ...asked, preset: asked.preset ?? DEFAULT_PRESET };
    const { facts, revision } = await this.montages.load(projectId);
    if (!facts.hasSong) throw new BadRequestException('There is no song yet, so there is nothing to export. Choose one in Song.');
    if (!facts.hasShots) throw new BadRequestException('Nothing hangs in the score yet. Hang pegs and fill the slots in Score first.');
    const states = new Map((await this.assets.list(projectId)).map((a) => [a.id, a]));
    for (const id of facts.shown) {
      const asset = states.get(id);
      if (!asset || asset.state === 'failed')
        throw new BadRequestException(
          `"${asset?.name ?? 'A clip'}" is used in the score but cannot be read. Replace it, then export again.`,
        );
      // Films are made from what was brought in: a clip's preview may still be on its way, but it has to have been looked at and heard.
      if (asset.state === 'working' && !asset.info.looked)
        throw new BadRequestException(`"${asset.name}" is still being prepared. Export again in a moment.`);
    }
    await this.room.require(bytesOf(wish, facts), 'The film');
    const id = randomUUID();
    await this.writeMontage(id, facts.text);
    return this.jobs.add(projectId, 'export', { revision, wish }, id);
  }

  /** Takes a finished film away, or one that came to nothing. */
  async remove(job: JobEntity): Promise<void> {
    if (job.state === 'queued' || job.state === 'running')
      throw new BadRequestException('This film is still being made. Cancel it first, then remove it.');
    await this.made.remove(job);
    await this.jobs.forget(job.id);
  }

  private writeMontage(jobId: string, text: string): Promise<void> {
    return makeWhole(this.made.montage(jobId), (to) => writeFile(to, text));
  }

  private async render({ job, signal, progress }: JobContext): Promise<Record<string, unknown>> {
    const montage = this.made.montage(job.id);
    // Exports that an earlier version was asked for have it in their row.
    if (job.payload['document'] !== undefined) await this.writeMontage(job.id, JSON.stringify(job.payload['document']));
    const facts = await this.montages.read(await readFile(montage, 'utf8'));
    const pictures: Record<string, FilmOrder['pictures'][string]> = {};
    const faces: Record<string, string> = {};
    for (const id of facts.shown) {
      const asset = await this.assets.find(id);
      const { kind } = asset;
      if (kind === 'photo') pictures[id] = { path: this.files.path(id, 'photo'), video: null };
      if (kind === 'face') faces[id] = this.files.path(id, 'original');
      if (kind !== 'clip') continue;
      const path = this.files.path(id, 'original');
      pictures[id] = { path, video: (await this.probes.of(asset, signal)).video };
    }
    const summary = await filmInProcess(
      {
        montage,
        film: this.made.film(job),
        report: this.made.report(job.id),
        wish: wishOf(job),
        tags: {
          title: wishOf(job).name ?? (await this.projects.find(job.projectId)).name,
          date: new Date(job.createdAt).toISOString().slice(0, 10),
        },
        writes: await this.room.left(),
        pictures,
        faces,
        sounds: Object.fromEntries(facts.shown.map((id) => [id, this.files.path(id, 'sound')])),
      },
      { signal, onPart: progress },
    );
    await rm(montage, { force: true });
    return { ...summary };
  }
}
