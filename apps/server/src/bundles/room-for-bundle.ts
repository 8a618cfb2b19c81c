import { Injectable, type CanActivate, type ExecutionContext } from '@nestjs/common';
import type { Request } from 'express';
import { letPass } from '../assets/room-for-upload.ts';
import { DiskRoom } from '../keeping/disk-room.ts';

/** Refuses a bundle for which there is no room, before any of it is taken in. */
@Injectable()
export class RoomForBundle implements CanActivate {
  constructor(private readonly room: DiskRoom) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<Request>();
    try {
      await this.room.require(Number(request.headers['content-length'] ?? 0), 'The bundle');
      return true;
    } catch (error) {
      await letPass(request);
      throw error;
    }
  }
}
