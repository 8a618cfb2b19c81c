import { BadRequestException, Injectable, type OnModuleInit } from '@nestjs/common';
import { writeFile } from 'node:fs/promises';
import { DEFAULT_PRESET, readMontage, scoreOf, syncReport, type FilmPresetName, type Montage } from '@bluster/core';
import { AssetFiles } from '../assets/asset-files.ts';
import { AssetsService } from '../assets/assets.service.ts';
import type { JobEntity } from '../jobs/job.entity.ts';
import { JobsService, type JobContext } from '../jobs/jobs.service.ts';
import { probe, type MediaProbe } from '@bluster/media/probe/probe';
import { MontagesService } from '../montages/montages.service.ts';
import { ExportFiles, presetOf } from './export-files.ts';
import { renderFilm } from '@bluster/media/film/film';
import { makeWhole } from '@bluster/media/program/whole-file';

/** Renders films of montages as jobs. */
@Injectable()
export class ExportsService implements OnModuleInit {
  constructor(
    private readonly made: ExportFiles,
    private readonly files: AssetFiles,
    private readonly assets: AssetsService,
    private readonly montages: MontagesService,
    private readonly jobs: JobsService,
  ) {}

  onModuleInit(): void {
    this.jobs.handle('export', (context) => this.render(context));
  }

  /** Starts an export of the montage as it is saved now; later edits do not touch it. */
  async start(projectId: string, preset: FilmPresetName = DEFAULT_PRESET): Promise<JobEntity> {
    const { document, revision } = await this.montages.load(projectId);
    if (!document.song) throw new BadRequestException('There is no song yet, so there is nothing to export. Choose one in Song.');
    if (document.shots.length === 0)
      throw new BadRequestException('Nothing hangs in the score yet. Hang pegs and fill the slots in Score first.');
    const states = new Map((await this.assets.list(projectId)).map((a) => [a.id, a]));
    const { slots, over } = scoreOf(document);
    const shown = [...slots, ...over].flatMap((s) => (s.placed ? [s.placed.item.assetId] : []));
    const used = [document.song.assetId, ...shown, ...document.effects.flatMap((e) => e.assetId ?? [])];
    for (const id of used) {
      const asset = states.get(id);
      if (!asset || asset.state === 'failed')
        throw new BadRequestException(
          `"${asset?.name ?? 'A clip'}" is used in the score but cannot be read. Replace it, then export again.`,
        );
      if (asset.state === 'working') throw new BadRequestException(`"${asset.name}" is still being prepared. Export again in a moment.`);
    }
    return this.jobs.add(projectId, 'export', { revision, preset, document });
  }

  private async render({ job, signal, progress }: JobContext): Promise<Record<string, unknown>> {
    const montage: Montage = readMontage(job.payload['document']);
    const videos = new Map<string, MediaProbe['video']>();
    for (const shot of montage.shots) {
      const asset = videos.has(shot.assetId) ? null : await this.assets.find(shot.assetId);
      if (asset)
        videos.set(asset.id, asset.kind === 'clip' ? (await probe(this.files.path(asset.id, 'original'), asset.name, signal)).video : null);
    }
    const isPhoto = (id: string): boolean => videos.get(id) === null;
    await renderFilm(
      montage,
      {
        picturePath: (id) => this.files.path(id, isPhoto(id) ? 'photo' : 'original'),
        video: (id) => videos.get(id) ?? null,
        soundPath: (id) => this.files.path(id, 'sound'),
      },
      this.made.film(job),
      { preset: presetOf(job), signal, onFrame: (done, total) => progress(done / total) },
    );
    const report = syncReport(montage);
    await makeWhole(this.made.report(job.id), (to) => writeFile(to, `${JSON.stringify(report, null, 2)}\n`));
    const { frames, cuts, worstErrorMs, emptySlots, shortShots } = report;
    return { frames, cuts: cuts.length, worstErrorMs, emptySlots, shortShots };
  }
}
