import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import type { Request } from 'express';
import { ProjectsService } from '../projects/projects.service.ts';
import { AssetsService } from './assets.service.ts';

/** Refuses a file that is meant for a project that is not there, or for which there is no room, before any of it is taken in. */
@Injectable()
export class RoomForUpload implements CanActivate {
  constructor(
    private readonly projects: ProjectsService,
    private readonly assets: AssetsService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const { params, headers } = context.switchToHttp().getRequest<Request>();
    const { id = '' } = params as { id?: string };
    await this.projects.find(id);
    await this.assets.requireRoom(id, Number(headers['content-length'] ?? 0), 'The file');
    return true;
  }
}
