import { Body, Controller, Get, NotFoundException, Param, ParseUUIDPipe, Post, Res } from '@nestjs/common';
import type { Response } from 'express';
import { existsSync } from 'node:fs';
import { FILM_PRESETS } from '@bluster/core';
import { ExportRequest, type JobAnswer, type LoudnessAnswer } from '@bluster/wire';
import { jobAnswer } from '../jobs/job-answer.ts';
import { JobsService } from '../jobs/jobs.service.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import type { JobEntity } from '../jobs/job.entity.ts';
import { ExportFiles, presetOf } from './export-files.ts';
import { LoudnessService } from './loudness.service.ts';
import { ExportsService } from './exports.service.ts';

@Controller('api')
export class ExportsController {
  constructor(
    private readonly exports: ExportsService,
    private readonly loudness: LoudnessService,
    private readonly files: ExportFiles,
    private readonly jobs: JobsService,
    private readonly projects: ProjectsService,
  ) {}

  @Post('projects/:id/exports')
  async start(@Param('id', ParseUUIDPipe) id: string, @Body() body: ExportRequest): Promise<JobAnswer> {
    await this.projects.find(id);
    return jobAnswer(await this.exports.start(id, body.preset));
  }

  /** How loud the film of the montage would be, as it is saved now. */
  @Get('projects/:id/loudness')
  async loud(@Param('id', ParseUUIDPipe) id: string): Promise<LoudnessAnswer> {
    await this.projects.find(id);
    return this.loudness.of(id);
  }

  @Get('exports/:id/film')
  async film(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    const job = await this.jobs.find(id);
    const { ending, type } = FILM_PRESETS[presetOf(job)];
    await this.hand(job, this.files.film(job), ending, response.type(type));
  }

  @Get('exports/:id/report')
  async report(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    await this.hand(await this.jobs.find(id), this.files.report(id), 'json', response);
  }

  private async hand({ projectId }: JobEntity, path: string, ending: string, response: Response): Promise<void> {
    if (!existsSync(path)) throw new NotFoundException('This film is not finished, or it was removed. Export it again.');
    const { name } = await this.projects.find(projectId);
    const safe = name.replace(/[^\p{L}\p{N} _.-]/gu, '').trim() || 'montage';
    response.setHeader('Content-Disposition', `inline; filename*=UTF-8''${encodeURIComponent(`${safe}.${ending}`)}`);
    response.sendFile(path, { dotfiles: 'allow' });
  }
}
