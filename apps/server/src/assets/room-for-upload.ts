import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import type { Request } from 'express';
import { ProjectsService } from '../projects/projects.service.ts';
import { AssetsService } from './assets.service.ts';

/** Many clients read no answer before they have sent all; who sends for longer than this is cut off, ms. */
const LET_PASS_MS = 2000;

/** Lets what is sent pass by unread, for a while. */
export function letPass(request: Request): Promise<void> {
  return new Promise((done) => {
    const timer = setTimeout(done, LET_PASS_MS);
    request.once('close', done).once('end', () => {
      clearTimeout(timer);
      done();
    });
    request.resume();
  });
}

/** Refuses a file that is meant for a project that is not there, or for which there is no room, before any of it is taken in. */
@Injectable()
export class RoomForUpload implements CanActivate {
  constructor(
    private readonly projects: ProjectsService,
    private readonly assets: AssetsService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<Request>();
    const { id = '' } = request.params as { id?: string };
    try {
      await this.projects.find(id);
      await this.assets.requireRoom(id, Number(request.headers['content-length'] ?? 0), 'The file');
      return true;
    } catch (error) {
      await letPass(request);
      throw error;
    }
  }
}
