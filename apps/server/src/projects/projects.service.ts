import { Injectable, NotFoundException } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { IsNull, Repository } from 'typeorm';
import { ProjectEntity } from './project.entity.ts';

/** Single projects, by their ids. */
@Injectable()
export class ProjectsService {
  constructor(@InjectRepository(ProjectEntity) private readonly projects: Repository<ProjectEntity>) {}

  async find(id: string): Promise<ProjectEntity> {
    const project = await this.projects.findOneBy({ id, deletedAt: IsNull() });
    if (!project) throw new NotFoundException('There is no such project. It may have been deleted; look on the projects page.');
    return project;
  }

  async findDemo(): Promise<ProjectEntity | null> {
    return this.projects.findOneBy({ demo: true, deletedAt: IsNull() });
  }

  async rename(id: string, name: string): Promise<ProjectEntity> {
    const project = await this.find(id);
    return this.projects.save({ ...project, name, updatedAt: Date.now() });
  }

  async touch(id: string): Promise<void> {
    await this.projects.update(id, { updatedAt: Date.now() });
  }
}
