import { Injectable } from '@nestjs/common';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Config } from '../config.ts';
import { JobsService } from '../jobs/jobs.service.ts';

/** Where finished films and their reports lie. */
@Injectable()
export class ExportFiles {
  constructor(
    private readonly config: Config,
    private readonly jobs: JobsService,
  ) {}

  film(jobId: string): string {
    return join(this.config.exportsFolder, `${jobId}.mp4`);
  }

  report(jobId: string): string {
    return join(this.config.exportsFolder, `${jobId}.json`);
  }

  /** Removes the films of a project. */
  async removeAll(projectId: string): Promise<void> {
    for (const { id } of await this.jobs.allOf(projectId, 'export'))
      for (const path of [this.film(id), this.report(id)]) await rm(path, { force: true });
  }
}
