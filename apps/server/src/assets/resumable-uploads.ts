import { Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import type { NextFunction, Request, Response } from 'express';
import { mkdirSync } from 'node:fs';
import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Config } from '../config.ts';
import { WriteAheadLog } from '../database/write-ahead-log.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import { describeProblem, isDiskFull } from '../http/problem.filter.ts';
import { LARGEST_UPLOAD, displayName } from './asset-files.ts';
import type { AssetAnswer } from '@bluster/wire';
import { assetAnswer } from './asset-answer.ts';
import { AssetsService } from './assets.service.ts';
import type { AssetRole } from './look-at-file.ts';

/** Where uploads by the tus protocol are made. */
export const UPLOADS_PATH = '/api/uploads';
/** An upload that was cut off can be gone on with for this long. */
const KEPT_MS = 7 * 24 * 3600_000;
const UPLOAD_ID = /^[0-9a-f]{32}$/;
const METHODS = ['POST', 'HEAD', 'PATCH', 'DELETE', 'OPTIONS'];

/** What comes with an upload, in the protocol's Upload-Metadata. */
interface Wish {
  readonly project: string;
  readonly role: AssetRole;
  readonly name: string;
  /** in which order it was brought in; undefined where that is not said */
  readonly place: number | undefined;
}

function wishOf(metadata: Record<string, string | null> | undefined): Wish | null {
  const { project, role, filename, place } = metadata ?? {};
  if (!project || !filename || (role !== 'song' && role !== 'footage')) return null;
  return { project, role, name: filename, place: /^\d{1,16}$/.test(place ?? '') ? Number(place) : undefined };
}

/** Uploads that go on where they were after a cut connection, a reloaded page or a stopped server: tus 1.0 (tus.io). */
@Injectable()
export class ResumableUploads implements OnApplicationBootstrap {
  private readonly log = new Logger('Uploads');
  private readonly folder: string;
  private readonly tus: Server;

  constructor(
    config: Config,
    private readonly assets: AssetsService,
    private readonly projects: ProjectsService,
    private readonly database: WriteAheadLog,
  ) {
    this.folder = join(config.incomingFolder, 'resumable');
    mkdirSync(this.folder, { recursive: true });
    this.tus = new Server({
      path: UPLOADS_PATH,
      relativeLocation: true,
      maxSize: LARGEST_UPLOAD,
      datastore: new FileStore({ directory: this.folder, expirationPeriodInMilliseconds: KEPT_MS }),
      // Errors of the store come in its own words; a full disk among them is said as everywhere else.
      onResponseError: (_request, error) => {
        if (!isDiskFull(error)) return undefined;
        const { status_code, body } = TusProblem.of(error);
        return { status_code, body };
      },
      onUploadCreate: async (_request, upload) => {
        const wish = wishOf(upload.metadata);
        if (!wish) throw new TusProblem(400, { message: 'An upload names its project, its role (song or footage) and its file name.' });
        try {
          await this.projects.find(wish.project);
          await this.assets.requireRoom(wish.project, upload.size ?? 0, `"${displayName(wish.name)}"`);
        } catch (error) {
          throw TusProblem.of(error);
        }
        return {};
      },
      onUploadFinish: async (_request, upload) => {
        const asset = await this.take(upload.id, wishOf(upload.metadata)!).catch((error: unknown) => {
          throw TusProblem.of(error);
        });
        return { status_code: 200, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(asset) };
      },
    });
  }

  /** What had come whole when the server stopped is taken in; what nobody went on with is removed. */
  async onApplicationBootstrap(): Promise<void> {
    await this.tus.cleanUpExpiredUploads().catch((error: unknown) => this.log.warn(error));
    const store = this.tus.datastore as FileStore;
    for (const id of (await readdir(this.folder)).filter((name) => UPLOAD_ID.test(name))) {
      const upload = await store.getUpload(id).catch(() => null);
      const wish = wishOf(upload?.metadata);
      const { size } = await stat(join(this.folder, id));
      if (!upload || !wish || upload.size !== size) continue;
      await this.take(id, wish).catch((error: Error) => this.log.warn(`${wish.name}: ${error.message}`));
    }
  }

  /** Handles one request under UPLOADS_PATH. */
  handle(request: Request, response: Response, next: NextFunction): void {
    const id = request.path.replace(/^\//, '');
    if (!METHODS.includes(request.method) || (id !== '' && !UPLOAD_ID.test(id))) {
      next();
      return;
    }
    // The protocol's server looks at the whole address.
    request.url = request.originalUrl;
    this.tus.handle(request, response).catch(next);
  }

  private async take(id: string, { project, role, name, place }: Wish): Promise<AssetAnswer> {
    try {
      const answer = assetAnswer(await this.assets.takeIn(project, join(this.folder, id), name, role, place));
      await this.database.kept();
      return answer;
    } finally {
      await rm(join(this.folder, `${id}.json`), { force: true });
    }
  }
}

/** An error in the form that the protocol's server answers with: these fields are its own names. */
class TusProblem extends Error {
  readonly body: string;

  constructor(
    readonly status_code: number,
    answer: object,
  ) {
    super('refused');
    this.body = JSON.stringify(answer);
  }

  static of(error: unknown): TusProblem {
    return new TusProblem(...describeProblem(error));
  }
}
