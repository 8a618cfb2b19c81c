import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import type { Request } from 'express';
import { ProjectsService } from './projects.service.ts';

/** Refuses what is meant for a project that is not there, before anything that comes with it is taken in. */
@Injectable()
export class ProjectThere implements CanActivate {
  constructor(private readonly projects: ProjectsService) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const { id } = context.switchToHttp().getRequest<Request>().params as { id?: string };
    await this.projects.find(id ?? '');
    return true;
  }
}
