import type { NestExpressApplication } from '@nestjs/platform-express';
import { join } from 'node:path';
import request from 'supertest';
import type { Montage } from '@bluster/core';
import type { AssetEntity } from '../assets/asset.entity.ts';
import { Config } from '../config.ts';
import type { JobEntity } from '../jobs/job.entity.ts';
import { createServer } from '../server.ts';

/** A server on a real port with a real database file, and what a page would ask of it. */
export class RunningServer {
  private constructor(
    readonly app: NestExpressApplication,
    readonly folder: string,
    readonly url: string,
  ) {}

  static async start(folder: string): Promise<RunningServer> {
    const app = await createServer(new Config(folder, 0, null, join(import.meta.dirname, '../../../../demo/media')));
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
    const { body } = (await this.http.post('/api/projects').send({ name }).expect(201)) as { body: unknown };
    return (body as { id: string }).id;
  }

  upload(project: string, role: 'song' | 'footage', path: string, name?: string): request.Test {
    return this.http.post(`/api/projects/${project}/assets?role=${role}`).attach('file', path, name);
  }

  /** Asks until something is so; a server that never gets there runs into the test's own limit. */
  async until<T>(ask: () => Promise<T>, so: (value: T) => boolean): Promise<T> {
    for (;;) {
      const value = await ask();
      if (so(value)) return value;
      await new Promise((resolve) => setTimeout(resolve, 25));
    }
  }

  async assets(project: string): Promise<AssetEntity[]> {
    return (await this.http.get(`/api/projects/${project}/assets`).expect(200)).body as AssetEntity[];
  }

  /** Uploads and waits until it is ready. */
  async ready(project: string, role: 'song' | 'footage', path: string): Promise<AssetEntity> {
    const { id } = (await this.upload(project, role, path).expect(201)).body as AssetEntity;
    const all = await this.until(
      () => this.assets(project),
      (list) => list.find((a) => a.id === id)!.state !== 'working',
    );
    return all.find((a) => a.id === id)!;
  }

  async job(id: string): Promise<JobEntity> {
    return (await this.http.get(`/api/jobs/${id}`).expect(200)).body as JobEntity;
  }

  async save(project: string, revision: number, document: Montage): Promise<request.Response> {
    return this.http.put(`/api/projects/${project}/montage`).send({ revision, document });
  }
}
