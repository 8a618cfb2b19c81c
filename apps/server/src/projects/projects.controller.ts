import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { Transform } from 'class-transformer';
import { IsString, Length } from 'class-validator';
import { DemoService } from './demo.service.ts';
import type { ProjectEntity } from './project.entity.ts';
import { ProjectsService, type DeletedProject, type ProjectSummary } from './projects.service.ts';

export class ProjectNameBody {
  @Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value))
  @IsString({ message: 'A project needs a name' })
  @Length(1, 120, { message: 'A name has 1 to 120 characters' })
  name: string;
}

@Controller('api/projects')
export class ProjectsController {
  constructor(
    private readonly projects: ProjectsService,
    private readonly demo: DemoService,
  ) {}

  @Get()
  list(): Promise<ProjectSummary[]> {
    return this.projects.list();
  }

  @Post()
  create(@Body() body: ProjectNameBody): Promise<ProjectEntity> {
    return this.projects.create(body.name);
  }

  /** Deleted projects that can still be brought back. */
  @Get('deleted')
  listDeleted(): Promise<DeletedProject[]> {
    return this.projects.listDeleted();
  }

  /** Opens the demo project, making it first where there is none. */
  @Post('demo')
  @HttpCode(200)
  openDemo(): Promise<ProjectEntity> {
    return this.demo.open();
  }

  @Get(':id')
  find(@Param('id', ParseUUIDPipe) id: string): Promise<ProjectEntity> {
    return this.projects.find(id);
  }

  @Patch(':id')
  rename(@Param('id', ParseUUIDPipe) id: string, @Body() body: ProjectNameBody): Promise<ProjectEntity> {
    return this.projects.rename(id, body.name);
  }

  @Post(':id/duplicate')
  duplicate(@Param('id', ParseUUIDPipe) id: string): Promise<ProjectEntity> {
    return this.projects.duplicate(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.projects.remove(id);
  }

  /** Removes a deleted project with everything of it: nothing brings it back. */
  @Delete(':id/for-good')
  @HttpCode(204)
  removeForGood(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.projects.removeForGood(id);
  }

  @Post(':id/restore')
  @HttpCode(200)
  restore(@Param('id', ParseUUIDPipe) id: string): Promise<ProjectEntity> {
    return this.projects.restore(id);
  }
}
