import { BadRequestException, Injectable } from '@nestjs/common';
import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import type { AssetKind, OpenedBundleAnswer } from '@bluster/wire';
import { AssetFiles } from '../assets/asset-files.ts';
import { AssetsService, PLACES_A_MS } from '../assets/assets.service.ts';
import { Config } from '../config.ts';
import { HomeService } from '../home/home.service.ts';
import { MontagesService } from '../montages/montages.service.ts';
import type { MontageFacts } from '../montages/reading/montage-facts.ts';
import { projectAnswer } from '../projects/project-answer.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import type { BundledFile } from './bundle-manifest.ts';
import { OpenBundle } from './read-bundle.ts';
import { bundleStream, nameIn, otiozStream, type Bundled } from './write-bundle.ts';

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
    const files = await this.filesOf(projectId, facts, () => media);
    return { name, stream: bundleStream({ name, montage: facts.text, files }) };
  }

  /** The cut of a project as OpenTimelineIO with the media that it shows. */
  async writeOtioz(projectId: string): Promise<{ name: string; stream: Readable }> {
    const { name } = await this.projects.find(projectId);
    const { facts } = await this.montages.load(projectId);
    if (!facts.hasSong) throw new BadRequestException('There is no cut to hand on yet. Choose a song first.');
    const shown = new Set(facts.shown);
    const files = (await this.filesOf(projectId, facts, () => true)).flatMap(({ id, name: file, size, path }) =>
      path !== null && shown.has(id) ? [{ id, place: nameIn(id, file), path, size }] : [],
    );
    const otio = await this.montages.asOtio(facts.text, name, new Map(files.map(({ id, place }) => [id, place])));
    return { name, stream: otiozStream(otio, files) };
  }

  /** A project's montage as a template: without its pictures, with its sounds and typefaces, and with its song where that is wanted. */
  async writeTemplate(
    projectId: string,
    { name, note, song }: { name: string; note: string; song: boolean },
  ): Promise<{ stream: Readable; bytes: number }> {
    await this.projects.find(projectId);
    const facts = await this.montages.withoutPictures((await this.montages.load(projectId)).facts.text);
    if (!facts.hasSong || facts.slots < 2)
      throw new BadRequestException('There is nothing to keep as a template yet: it needs a song and pegs that hang on it.');
    const files = await this.filesOf(projectId, facts, (kind) => kind !== 'song' || song);
    const bytes = files.reduce((sum, { size, path }) => sum + (path === null ? 0 : size), facts.text.length);
    return { stream: bundleStream({ name, template: note, montage: facts.text, files }), bytes };
  }

  /** The files of a montage as they go along. @param along which kinds do so; of the others only their names */
  private async filesOf(projectId: string, facts: MontageFacts, along: (kind: AssetKind) => boolean): Promise<Bundled['files']> {
    const named = new Set(facts.assets);
    return (await this.assets.list(projectId))
      .filter((asset) => named.has(asset.id))
      .map(({ id, kind, name: file, size, info }) => {
        const path = this.files.path(id, 'original');
        const { length, width, height, rate, frames, hasSound } = info;
        const known = Object.fromEntries(
          Object.entries({ length, width, height, rate, frames, hasSound }).filter(([, v]) => v !== undefined),
        );
        return { id, kind, name: file, size, info: known, path: along(kind) && existsSync(path) ? path : null };
      });
  }

  /**
   * Opens a bundle as a new project; nothing that is there is overwritten. Files that are not in it are named, and taken when they
   * are brought in by the same name.
   * @param path where it lies; it is removed
   * @param name of the project; left out, as the bundle says
   * @throws BundleError, MontageFormatError, NoRoomError; nothing is left of the project then
   */
  async open(path: string, name?: string): Promise<OpenedBundleAnswer> {
    let project: string | null = null;
    let bundle: OpenBundle | null = null;
    try {
      bundle = await OpenBundle.open(path);
      const { manifest } = bundle;
      // Read before anything is made: a montage of a newer version is refused by name.
      await this.montages.read(bundle.montage);
      const made = await this.home.create(name ?? manifest.name);
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
