import { Injectable, type CallHandler, type ExecutionContext, type NestInterceptor } from '@nestjs/common';
import type { Request } from 'express';
import { from, lastValueFrom, type Observable } from 'rxjs';
import { WriteAheadLog } from './write-ahead-log.ts';

/** Whatever changes something is answered when it is on the disk; refusals too, for they may say what was set aside. */
@Injectable()
export class AnswerWhenKept implements NestInterceptor {
  constructor(private readonly log: WriteAheadLog) {}

  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const { method } = context.switchToHttp().getRequest<Request>();
    return method === 'GET' || method === 'HEAD' ? next.handle() : from(this.answer(next));
  }

  private async answer(next: CallHandler): Promise<unknown> {
    try {
      return await lastValueFrom(next.handle() as Observable<unknown>, { defaultValue: undefined });
    } finally {
      await this.log.kept();
    }
  }
}
