import type { NestExpressApplication } from '@nestjs/platform-express';
import { join } from 'node:path';
import request from 'supertest';
import type { Montage } from '@bluster/core';
import { ROUTES, type AssetAnswer, type JobAnswer } from '@bluster/wire';
import { Config } from '../config.ts';
import { createServer } from '../server.ts';

/** Between two questions, ms: what takes long is asked for less often, for the answers take time from the work itself. */
const FIRST_PAUSE_MS = 10;
const LONGEST_PAUSE_MS = 100;

/** A server on a real port with a real database file, and what a page would ask of it. */
export class RunningServer {
  private constructor(
    readonly app: NestExpressApplication,
    readonly folder: string,
    readonly url: string,
  ) {}

  /** @param quota bytes of files that a project may hold @param web where its pages lie; null for none */
  static async start(folder: string, quota?: number, web: string | null = null): Promise<RunningServer> {
    const app = await createServer(new Config(folder, 0, web, join(import.meta.dirname, '../../../../demo/media'), undefined, quota));
    await app.listen(0, '127.0.0.1');
    const { port } = app.getHttpServer().address() as { port: number };
    return new RunningServer(app, folder, `http://127.0.0.1:${port}`);
  }

  get http(): ReturnType<typeof request> {
    return request(this.url);
  }

  async stop(): Promise<void> {
    await this.app.close();
  }

  async newProject(name = 'Kites'): Promise<string> {
    const { body } = (await this.http.post(ROUTES.projects()).send({ name }).expect(201)) as { body: unknown };
    return (body as { id: string }).id;
  }

  upload(project: string, role: 'song' | 'footage', path: string, name?: string): request.Test {
    return this.http.post(`${ROUTES.assets(project)}?role=${role}`).attach('file', path, name);
  }

  /** Asks until something is so; a server that never gets there runs into the test's own limit. */
  async until<T>(ask: () => Promise<T>, so: (value: T) => boolean): Promise<T> {
    for (let pause = FIRST_PAUSE_MS; ; pause = Math.min(LONGEST_PAUSE_MS, pause * 1.2)) {
      const value = await ask();
      if (so(value)) return value;
      await new Promise((resolve) => setTimeout(resolve, pause));
    }
  }

  async assets(project: string): Promise<AssetAnswer[]> {
    return (await this.http.get(ROUTES.assets(project)).expect(200)).body as AssetAnswer[];
  }

  /** Uploads and waits until it is ready. */
  async ready(project: string, role: 'song' | 'footage', path: string): Promise<AssetAnswer> {
    const { id } = (await this.upload(project, role, path).expect(201)).body as AssetAnswer;
    const all = await this.until(
      () => this.assets(project),
      (list) => list.find((a) => a.id === id)!.state !== 'working',
    );
    return all.find((a) => a.id === id)!;
  }

  private readonly seen = new Map<string, Set<string>>();

  /**
   * Every job that a project was ever seen to have, as it is now, newest first: the list leaves out files that were made
   * ready long ago.
   */
  async jobs(project: string): Promise<JobAnswer[]> {
    const seen = this.seen.get(project) ?? new Set();
    this.seen.set(project, seen);
    for (const { id } of (await this.http.get(ROUTES.jobs(project)).expect(200)).body as JobAnswer[]) seen.add(id);
    const all = await Promise.all([...seen].map((id) => this.job(id)));
    return all.sort((a, b) => b.createdAt - a.createdAt);
  }

  async job(id: string): Promise<JobAnswer> {
    return (await this.http.get(ROUTES.job(id)).expect(200)).body as JobAnswer;
  }

  async save(project: string, revision: number, document: Montage): Promise<request.Response> {
    return this.http.put(ROUTES.montage(project)).send({ revision, document });
  }
}
