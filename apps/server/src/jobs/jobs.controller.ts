import { Controller, Get, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { JobsService } from './jobs.service.ts';
import type { JobEntity } from './job.entity.ts';

@Controller('api')
export class JobsController {
  constructor(private readonly jobs: JobsService) {}

  @Get('projects/:id/jobs')
  list(@Param('id', ParseUUIDPipe) id: string): Promise<JobEntity[]> {
    return this.jobs.list(id);
  }

  @Get('jobs/:id')
  find(@Param('id', ParseUUIDPipe) id: string): Promise<JobEntity> {
    return this.jobs.find(id);
  }

  @Post('jobs/:id/cancel')
  cancel(@Param('id', ParseUUIDPipe) id: string): Promise<JobEntity> {
    return this.jobs.cancel(id);
  }
}
