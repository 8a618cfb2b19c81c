import { Injectable } from '@nestjs/common';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { DEFAULT_PRESET, FILM_PRESETS, type FilmPresetName, type FilmWish } from '@bluster/core';
import { Config } from '../config.ts';
import type { JobEntity } from '../jobs/job.entity.ts';
import { JobsService } from '../jobs/jobs.service.ts';

type ExportJob = Pick<JobEntity, 'id' | 'payload'>;

/** What film a job makes; jobs of earlier versions knew one way. */
export function wishOf({ payload }: ExportJob): FilmWish {
  const { preset = DEFAULT_PRESET, wish } = payload as { preset?: FilmPresetName; wish?: FilmWish };
  return wish ?? { preset };
}

/** Where finished films and their reports lie. */
@Injectable()
export class ExportFiles {
  constructor(
    private readonly config: Config,
    private readonly jobs: JobsService,
  ) {}

  film(job: ExportJob): string {
    return join(this.config.exportsFolder, `${job.id}.${FILM_PRESETS[wishOf(job).preset].ending}`);
  }

  report(jobId: string): string {
    return join(this.config.exportsFolder, `${jobId}.json`);
  }

  /** The montage as it was when the export was asked for, until its film is made. */
  montage(jobId: string): string {
    return join(this.config.exportsFolder, `${jobId}.montage`);
  }

  /** Removes the films of a project. */
  async removeAll(projectId: string): Promise<void> {
    for (const job of await this.jobs.allOf(projectId, 'export')) await this.remove(job);
  }

  /** Removes a film and what belongs to it. */
  async remove(job: ExportJob): Promise<void> {
    for (const path of [this.film(job), this.report(job.id), this.montage(job.id)]) await rm(path, { force: true });
  }
}
