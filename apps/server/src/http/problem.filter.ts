import {
  BadRequestException,
  Catch,
  HttpException,
  Logger,
  NotFoundException,
  type ArgumentsHost,
  type ExceptionFilter,
} from '@nestjs/common';
import type { Response } from 'express';
import { MulterError } from 'multer';
import { isRefusal } from '@bluster/core';
import { CancelledError } from '@bluster/media/program/run';
import { NoRoomError } from '../keeping/disk-room.ts';

/** Said wherever the disk has run full. */
const DISK_FULL = new NoRoomError('The disk is full.');

/** What is said where there is no room: how much is missing, where that was found out beforehand. */
const noRoom = (error: unknown): NoRoomError => (error instanceof NoRoomError ? error : DISK_FULL);

/** The same of work that waits until there is room. */
export const waitsForRoom = (error: unknown): string => `${noRoom(error).missing} It goes on by itself when there is room.`;

/** What is said of work that has ended for want of room. */
export const endedForRoom = (error: unknown): string => noRoom(error).message;

const NOTHING_HERE = 'There is nothing at this address. Open the project anew from the list of projects.';

/** Whether an error means that there is no room left. */
export function isDiskFull(error: unknown): boolean {
  const { code, message } = error as { code?: string; message?: string };
  return (
    code === 'ENOSPC' ||
    code === 'EDQUOT' ||
    code === 'SQLITE_FULL' ||
    /no space left on device|database or disk is full/i.test(message ?? '')
  );
}

/** Turns every error into JSON with one sentence, and keeps the details in the server's log. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly log = new Logger('Problem');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    if (response.headersSent) return;
    const [status, body] = describeProblem(error);
    if (status >= 500) this.log.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    response.status(status).json(body);
  }
}

/** The status and the body that say an error in one sentence. */
export function describeProblem(error: unknown): [number, object] {
  if (isDiskFull(error)) return [507, { message: endedForRoom(error) }];
  if (isRefusal(error)) return [422, { message: error.message }];
  if (error instanceof CancelledError) return [409, { message: 'This was cancelled.' }];
  const upload = uploadProblem(error);
  if (upload) return upload;
  // What stands in an address and cannot be there is never written by people.
  if (error instanceof BadRequestException && error.message.startsWith('Validation failed')) return [400, { message: NOTHING_HERE }];
  if (error instanceof NotFoundException && error.message.startsWith('Cannot ')) return [404, { message: NOTHING_HERE }];
  // The framework hands on the words of what reads the request.
  if (error instanceof BadRequestException && /\bJSON\b/.test(error.message)) return [400, { message: 'The request is not valid JSON.' }];
  if (error instanceof HttpException) {
    const said = error.getResponse();
    const message = typeof said === 'string' ? said : (said as { message?: string | string[] }).message;
    const rest = typeof said === 'object' ? said : {};
    return [error.getStatus(), { ...rest, message: Array.isArray(message) ? `${message.join('; ')}.` : (message ?? error.message) }];
  }
  const { type } = error as { type?: string };
  if (type === 'entity.parse.failed') return [400, { message: 'The request is not valid JSON.' }];
  if (type === 'entity.too.large') return [413, { message: 'The request is too large.' }];
  if (error instanceof RangeError && /call stack/i.test(error.message)) return [400, { message: 'The request is nested too deeply.' }];
  return [500, { message: 'Something went wrong on the server. Try again; the details are in its log.' }];
}

/** What multer refuses an upload with, in its own words, before the framework has made another error of them. */
const UPLOAD_REFUSED =
  /^(Unexpected field|Too many (files|parts|fields)|Field (name|value) (too long|missing)|Multipart:|Unexpected end of form)/i;

function uploadProblem(error: unknown): [number, object] | null {
  const { message } = error as { message?: string };
  const status = error instanceof HttpException ? error.getStatus() : 0;
  const tooLarge =
    (error instanceof MulterError && error.code === 'LIMIT_FILE_SIZE') || (status === 413 && /file too large/i.test(message ?? ''));
  if (tooLarge) return [413, { message: 'This file is larger than 20 GB. Cut it into parts.' }];
  if (error instanceof MulterError || (status === 400 && UPLOAD_REFUSED.test(message ?? '')))
    return [400, { message: 'The upload was not understood. Send one file in the field "file".' }];
  return null;
}
