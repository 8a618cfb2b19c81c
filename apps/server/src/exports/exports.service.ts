import { BadRequestException, Injectable, type OnModuleInit } from '@nestjs/common';
import { randomUUID } from 'node:crypto';
import { readFile, rm, writeFile } from 'node:fs/promises';
import { DEFAULT_PRESET, type FilmPresetName } from '@bluster/core';
import { filmInThread, type FilmOrder } from '@bluster/media/film/film-thread';
import { probe } from '@bluster/media/probe/probe';
import { makeWhole } from '@bluster/media/program/whole-file';
import { AssetFiles } from '../assets/asset-files.ts';
import { AssetsService } from '../assets/assets.service.ts';
import type { JobEntity } from '../jobs/job.entity.ts';
import { JobsService, type JobContext } from '../jobs/jobs.service.ts';
import { DiskRoom } from '../keeping/disk-room.ts';
import { MontagesService } from '../montages/montages.service.ts';
import { ExportFiles, presetOf } from './export-files.ts';

/** About what a film takes on the disk while it is made: bytes a second and pixel (4.4 Mbit/s at 1280x720), and its sound. */
const BYTES_A_PIXEL_SECOND = 0.6;
const SOUND_BYTES_A_SECOND = 176_400;

/** Renders films of montages as jobs. */
@Injectable()
export class ExportsService implements OnModuleInit {
  constructor(
    private readonly made: ExportFiles,
    private readonly files: AssetFiles,
    private readonly assets: AssetsService,
    private readonly montages: MontagesService,
    private readonly jobs: JobsService,
    private readonly room: DiskRoom,
  ) {}

  onModuleInit(): void {
    this.jobs.handle(
      'export',
      (context) => this.render(context),
      (job) => rm(this.made.montage(job.id), { force: true }),
    );
  }

  /** Starts an export of the montage as it is saved now; later edits do not touch it. */
  async start(projectId: string, preset: FilmPresetName = DEFAULT_PRESET): Promise<JobEntity> {
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
      if (asset.state === 'working') throw new BadRequestException(`"${asset.name}" is still being prepared. Export again in a moment.`);
    }
    const about = facts.length * (facts.pixels * BYTES_A_PIXEL_SECOND + SOUND_BYTES_A_SECOND);
    await this.room.require(about, 'The film');
    const id = randomUUID();
    await this.writeMontage(id, facts.text);
    return this.jobs.add(projectId, 'export', { revision, preset }, id);
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
      const { kind, name } = await this.assets.find(id);
      if (kind === 'photo') pictures[id] = { path: this.files.path(id, 'photo'), video: null };
      if (kind === 'face') faces[id] = this.files.path(id, 'original');
      if (kind !== 'clip') continue;
      const path = this.files.path(id, 'original');
      pictures[id] = { path, video: (await probe(path, name, signal)).video };
    }
    const summary = await filmInThread(
      {
        montage,
        film: this.made.film(job),
        report: this.made.report(job.id),
        preset: presetOf(job),
        writes: await this.room.left(),
        pictures,
        faces,
        sounds: Object.fromEntries(facts.shown.map((id) => [id, this.files.path(id, 'sound')])),
      },
      { signal, onFrame: (done, total) => progress(done / total) },
    );
    await rm(montage, { force: true });
    return { ...summary };
  }
}
