import { Body, Controller, Delete, Get, HttpCode, NotFoundException, Param, ParseUUIDPipe, Post, Query, Res } from '@nestjs/common';
import type { Response } from 'express';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { FILM_PRESETS, filmName, reportCsv, reportHtml, type FilmReport } from '@bluster/core';
import { ExportRequest, ReportQuery, type ExportResult, type JobAnswer, type LoudnessAnswer, type ReportForm } from '@bluster/wire';
import { jobAnswer } from '../jobs/job-answer.ts';
import { JobsService } from '../jobs/jobs.service.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import type { JobEntity } from '../jobs/job.entity.ts';
import { ExportFiles, wishOf } from './export-files.ts';
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
    return jobAnswer(await this.exports.start(id, body));
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
    const path = this.files.film(job);
    await this.named(job, path, response.type(FILM_PRESETS[wishOf(job).preset].type));
    response.sendFile(path, { dotfiles: 'allow' });
  }

  /** What was planned and found of a film's cuts: as data, as a table, or as a page to send. */
  @Get('exports/:id/report')
  async report(@Param('id', ParseUUIDPipe) id: string, @Query() { as = 'json' }: ReportQuery, @Res() response: Response): Promise<void> {
    const job = await this.jobs.find(id);
    const path = this.files.report(id);
    const name = await this.named(job, path, response.type(as), as);
    if (as === 'json') return response.sendFile(path, { dotfiles: 'allow' });
    const report = JSON.parse(await readFile(path, 'utf8')) as FilmReport;
    response.send(as === 'csv' ? reportCsv(report, report.proof?.cuts) : reportHtml(name, report));
  }

  @Delete('exports/:id')
  @HttpCode(204)
  async remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    const job = await this.jobs.find(id);
    if (job.kind !== 'export') throw new NotFoundException('There is no such film.');
    await this.exports.remove(job);
  }

  /** Says what a file is called. @returns the film's name @throws NotFoundException where it is not there */
  private async named(job: JobEntity, path: string, response: Response, as?: ReportForm): Promise<string> {
    if (!existsSync(path)) throw new NotFoundException('This film is not finished, or it was removed. Export it again.');
    const { name } = await this.projects.find(job.projectId);
    const { width, height } = (job.result ?? {}) as Partial<ExportResult>;
    const { preset, name: own } = wishOf(job);
    const film = filmName(own ?? name, preset, width && height ? { width, height } : null);
    const file = as ? `${film}.${as}` : film;
    response.setHeader('Content-Disposition', `inline; filename*=UTF-8''${encodeURIComponent(file)}`);
    return film;
  }
}
