import { Controller, Get, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { JobsService } from './jobs.service.ts';
import type { JobAnswer } from '@bluster/wire';
import { jobAnswer } from './job-answer.ts';

@Controller('api')
export class JobsController {
  constructor(private readonly jobs: JobsService) {}

  @Get('projects/:id/jobs')
  async list(@Param('id', ParseUUIDPipe) id: string): Promise<JobAnswer[]> {
    return (await this.jobs.list(id)).map(jobAnswer);
  }

  @Get('jobs/:id')
  async find(@Param('id', ParseUUIDPipe) id: string): Promise<JobAnswer> {
    return jobAnswer(await this.jobs.find(id));
  }

  @Post('jobs/:id/cancel')
  async cancel(@Param('id', ParseUUIDPipe) id: string): Promise<JobAnswer> {
    return jobAnswer(await this.jobs.cancel(id));
  }
}
