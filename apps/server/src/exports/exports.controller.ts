import { Controller, Get, NotFoundException, Param, ParseUUIDPipe, Post, Res } from '@nestjs/common';
import type { Response } from 'express';
import { existsSync } from 'node:fs';
import type { JobAnswer } from '@bluster/wire';
import { jobAnswer } from '../jobs/job-answer.ts';
import { JobsService } from '../jobs/jobs.service.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import { ExportFiles } from './export-files.ts';
import { ExportsService } from './exports.service.ts';

@Controller('api')
export class ExportsController {
  constructor(
    private readonly exports: ExportsService,
    private readonly files: ExportFiles,
    private readonly jobs: JobsService,
    private readonly projects: ProjectsService,
  ) {}

  @Post('projects/:id/exports')
  async start(@Param('id', ParseUUIDPipe) id: string): Promise<JobAnswer> {
    await this.projects.find(id);
    return jobAnswer(await this.exports.start(id));
  }

  @Get('exports/:id/film')
  film(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    return this.hand(id, this.files.film(id), 'mp4', response);
  }

  @Get('exports/:id/report')
  report(@Param('id', ParseUUIDPipe) id: string, @Res() response: Response): Promise<void> {
    return this.hand(id, this.files.report(id), 'json', response);
  }

  private async hand(id: string, path: string, ending: string, response: Response): Promise<void> {
    const job = await this.jobs.find(id);
    if (!existsSync(path)) throw new NotFoundException('This film is not finished, or it was removed. Export it again.');
    const { name } = await this.projects.find(job.projectId);
    const safe = name.replace(/[^\p{L}\p{N} _.-]/gu, '').trim() || 'montage';
    response.setHeader('Content-Disposition', `inline; filename*=UTF-8''${encodeURIComponent(`${safe}.${ending}`)}`);
    response.sendFile(path, { dotfiles: 'allow' });
  }
}
