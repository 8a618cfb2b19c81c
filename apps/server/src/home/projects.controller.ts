import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post } from '@nestjs/common';
import { DeletedProjectAnswer, ProjectAnswer, ProjectNameRequest, ProjectSummaryAnswer } from '@bluster/wire';
import { DemoService } from './demo.service.ts';
import { projectAnswer } from '../projects/project-answer.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import { HomeService } from './home.service.ts';

@Controller('api/projects')
export class ProjectsController {
  constructor(
    private readonly projects: ProjectsService,
    private readonly home: HomeService,
    private readonly demo: DemoService,
  ) {}

  @Get()
  list(): Promise<ProjectSummaryAnswer[]> {
    return this.home.list();
  }

  @Post()
  async create(@Body() body: ProjectNameRequest): Promise<ProjectAnswer> {
    return projectAnswer(await this.home.create(body.name));
  }

  /** Deleted projects that can still be brought back. */
  @Get('deleted')
  listDeleted(): Promise<DeletedProjectAnswer[]> {
    return this.home.listDeleted();
  }

  /** Opens the demo project, making it first where there is none. */
  @Post('demo')
  @HttpCode(200)
  async openDemo(): Promise<ProjectAnswer> {
    return projectAnswer(await this.demo.open());
  }

  @Get(':id')
  async find(@Param('id', ParseUUIDPipe) id: string): Promise<ProjectAnswer> {
    return projectAnswer(await this.projects.find(id));
  }

  @Patch(':id')
  async rename(@Param('id', ParseUUIDPipe) id: string, @Body() body: ProjectNameRequest): Promise<ProjectAnswer> {
    return projectAnswer(await this.projects.rename(id, body.name));
  }

  @Post(':id/duplicate')
  async duplicate(@Param('id', ParseUUIDPipe) id: string): Promise<ProjectAnswer> {
    return projectAnswer(await this.home.duplicate(id));
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.home.remove(id);
  }

  /** Removes a deleted project with everything of it: nothing brings it back. */
  @Delete(':id/for-good')
  @HttpCode(204)
  removeForGood(@Param('id', ParseUUIDPipe) id: string): Promise<void> {
    return this.home.removeForGood(id);
  }

  @Post(':id/restore')
  @HttpCode(200)
  async restore(@Param('id', ParseUUIDPipe) id: string): Promise<ProjectAnswer> {
    return projectAnswer(await this.home.restore(id));
  }
}
