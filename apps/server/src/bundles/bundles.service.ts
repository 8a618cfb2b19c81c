import { Injectable } from '@nestjs/common';
import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import type { OpenedBundleAnswer } from '@bluster/wire';
import { AssetFiles } from '../assets/asset-files.ts';
import { AssetsService, PLACES_A_MS } from '../assets/assets.service.ts';
import { Config } from '../config.ts';
import { HomeService } from '../home/home.service.ts';
import { MontagesService } from '../montages/montages.service.ts';
import { projectAnswer } from '../projects/project-answer.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import type { BundledFile } from './bundle-manifest.ts';
import { OpenBundle } from './read-bundle.ts';
import { bundleStream } from './write-bundle.ts';

/** Projects as one file each: to keep, or for another computer. */
@Injectable()
export class BundlesService {
  constructor(
    private readonly config: Config,
    private readonly home: HomeService,
    private readonly projects: ProjectsService,
    private readonly montages: MontagesService,
    private readonly assets: AssetsService,
    private readonly files: AssetFiles,
  ) {}

  /** A project as it is saved now. @param media whether its files go along */
  async write(projectId: string, media: boolean): Promise<{ name: string; stream: Readable }> {
    const { name } = await this.projects.find(projectId);
    const { facts } = await this.montages.load(projectId);
    const named = new Set(facts.assets);
    const files = (await this.assets.list(projectId))
      .filter((asset) => named.has(asset.id))
      .map(({ id, kind, name: file, size, info }) => {
        const path = this.files.path(id, 'original');
        const { length, width, height, rate, frames, hasSound } = info;
        const known = Object.fromEntries(
          Object.entries({ length, width, height, rate, frames, hasSound }).filter(([, v]) => v !== undefined),
        );
        return { id, kind, name: file, size, info: known, path: media && existsSync(path) ? path : null };
      });
    return { name, stream: bundleStream({ name, montage: facts.text, files }) };
  }

  /**
   * Opens a bundle as a new project; nothing that is there is overwritten. Files that are not in it are named, and taken when they
   * are brought in by the same name.
   * @param path where it lies; it is removed
   * @throws BundleError, MontageFormatError, NoRoomError; nothing is left of the project then
   */
  async open(path: string): Promise<OpenedBundleAnswer> {
    let project: string | null = null;
    let bundle: OpenBundle | null = null;
    try {
      bundle = await OpenBundle.open(path);
      const { manifest } = bundle;
      // Read before anything is made: a montage of a newer version is refused by name.
      await this.montages.read(bundle.montage);
      const made = await this.home.create(manifest.name);
      project = made.id;
      const inside = manifest.files.filter(({ file }) => file !== null).reduce((sum, { size }) => sum + size, 0);
      await this.assets.requireRoom(project, inside, 'What is in the bundle');
      const ids = await this.takeIn(project, bundle, manifest.files);
      await this.montages.save(project, 1, await this.montages.copied(bundle.montage, ids));
      const missing = manifest.files.filter(({ file }) => file === null).map(({ name }) => name);
      return { project: projectAnswer(made), missing };
    } catch (error) {
      if (project !== null) await this.home.discard(project);
      throw error;
    } finally {
      bundle?.close();
      await rm(path, { force: true });
    }
  }

  /** Takes the files of a bundle into a project. @returns of each of its ids the one that it has here */
  private async takeIn(projectId: string, bundle: OpenBundle, files: readonly BundledFile[]): Promise<Map<string, string>> {
    const ids = new Map<string, string>();
    const place = Date.now() * PLACES_A_MS;
    for (const [i, file] of files.entries()) {
      if (file.file === null) {
        ids.set(file.id, (await this.assets.await(projectId, file)).id);
        continue;
      }
      const incoming = join(this.config.incomingFolder, randomUUID());
      try {
        await bundle.extract(file, incoming);
        const role = file.kind === 'song' ? 'song' : 'footage';
        ids.set(file.id, (await this.assets.takeIn(projectId, incoming, file.name, role, place + i)).id);
      } finally {
        await rm(incoming, { force: true });
      }
    }
    return ids;
  }
}
