import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import type { NextFunction, Request, Response } from 'express';
import { existsSync } from 'node:fs';
import type { IncomingMessage } from 'node:http';
import { join } from 'node:path';
import { AppModule } from './app.module.ts';
import { ResumableUploads, UPLOADS_PATH } from './assets/resumable-uploads.ts';
import type { Config } from './config.ts';
import { byTurns } from './http/by-turns.ts';
import { trustedOrigin } from './http/trusted-origin.ts';
import type { FolderLock } from './keeping/folder-lock.ts';
import { openFolder } from './keeping/opening.ts';

/** A montage of thousands of shots is a few megabytes of JSON. */
const LARGEST_DOCUMENT = '32mb';
/** Whether a request is one that saves or keeps a montage. */
const bringsDocument = ({ method = '', url = '', headers }: IncomingMessage): boolean =>
  (method === 'PUT' ? /\/montage\/?(\?|$)/ : /\/versions\/?(\?|$)/).test(url) &&
  /^application\/json\b/i.test(headers['content-type'] ?? '');
/** Longer than clients keep a connection they might use again: none is reset while a request is on its way into it. */
const KEEP_ALIVE_MS = 75_000;

/** Builds the application over its data folder, which it holds until it is closed; it does not listen yet. */
export async function createServer(config: Config): Promise<NestExpressApplication> {
  const lock = await openFolder(config);
  return build(config, lock).catch((error: unknown) => {
    lock.release();
    throw error;
  });
}

async function build(config: Config, lock: FolderLock): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(config, lock), {
    logger: ['error', 'warn'],
    bodyParser: false,
  });
  app.use(byTurns());
  app.use(trustedOrigin);
  const uploads = app.get(ResumableUploads);
  app.use(UPLOADS_PATH, (request: Request, response: Response, next: NextFunction) => uploads.handle(request, response, next));
  // Documents stay text: reading one of thousands of shots would hold up everybody else.
  app.useBodyParser('text', { limit: LARGEST_DOCUMENT, type: bringsDocument });
  app.useBodyParser('json', { limit: LARGEST_DOCUMENT });
  const web = config.webFolder;
  if (web && existsSync(web)) {
    app.useStaticAssets(join(web, 'assets'), { prefix: '/assets/', immutable: true, maxAge: '365d', fallthrough: false });
    app.useStaticAssets(web, { index: false });
    // Every other address that is not the interface for programs is a view of the application.
    app.use((request: Request, response: Response, next: NextFunction) => {
      if (request.method !== 'GET' || request.path.startsWith('/api/')) next();
      else response.sendFile(join(web, 'index.html'));
    });
  }
  app.getHttpServer().keepAliveTimeout = KEEP_ALIVE_MS;
  app.enableShutdownHooks();
  return app;
}
