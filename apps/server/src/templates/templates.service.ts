import { BadRequestException, Injectable, Logger, NotFoundException, type OnModuleInit } from '@nestjs/common';
import { randomUUID } from 'node:crypto';
import { createWriteStream, existsSync } from 'node:fs';
import { copyFile, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { makeWhole, UNFINISHED } from '@bluster/media/program/whole-file';
import type { KeepTemplateRequest, OpenedBundleAnswer, TemplateAnswer } from '@bluster/wire';
import { BundlesService } from '../bundles/bundles.service.ts';
import { OpenBundle } from '../bundles/read-bundle.ts';
import { Config } from '../config.ts';
import { DemoService } from '../home/demo.service.ts';
import { DiskRoom } from '../keeping/disk-room.ts';
import { MontagesService } from '../montages/montages.service.ts';
import { montageFacts, type MontageFacts } from '../montages/reading/montage-facts.ts';
import { projectAnswer } from '../projects/project-answer.ts';
import { ShippedTemplates } from './shipped-templates.ts';

/** Templates that are kept, at most. */
const MOST_KEPT = 200;
const ENDING = '.template.zip';
/** Of one that was removed, until the server stops: its removal can be undone. */
const REMOVED = '.removed';
const ID = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

const shape = ({ length, slots, width, height }: MontageFacts): Pick<TemplateAnswer, 'length' | 'slots' | 'width' | 'height'> => ({
  length,
  slots,
  width,
  height,
});

/** Templates: bundles without pictures, kept in a folder, and those that ship. */
@Injectable()
export class TemplatesService implements OnModuleInit {
  private readonly log = new Logger('Templates');
  /** what is said of each; a file that is there does not change */
  private readonly known = new Map<string, TemplateAnswer | null>();

  constructor(
    private readonly config: Config,
    private readonly shipped: ShippedTemplates,
    private readonly bundles: BundlesService,
    private readonly demo: DemoService,
    private readonly montages: MontagesService,
    private readonly room: DiskRoom,
  ) {}

  async onModuleInit(): Promise<void> {
    for (const file of await readdir(this.config.templatesFolder))
      if (UNFINISHED.test(file) || file.endsWith(REMOVED)) await rm(join(this.config.templatesFolder, file), { force: true });
  }

  /** Those that were kept, the last one first, and then those that ship. One that cannot be read hides no other. */
  async list(): Promise<TemplateAnswer[]> {
    const kept: TemplateAnswer[] = [];
    for (const id of await this.keptIds()) {
      const answer = this.known.get(id) ?? (await this.answer(id));
      this.known.set(id, answer);
      if (answer) kept.push(answer);
    }
    kept.sort((a, b) => b.savedAt! - a.savedAt!);
    const ships = (await this.shipped.list()).map(({ id, name, note, montage }): TemplateAnswer => {
      return { id, name, note, ships: true, savedAt: null, hasSong: true, ...shape(montageFacts(montage)) };
    });
    return [...kept, ...ships];
  }

  /** Keeps a project's montage as a template. @throws BadRequestException, NoRoomError */
  async keep(projectId: string, { name, note = '', song }: KeepTemplateRequest): Promise<TemplateAnswer> {
    if ((await this.keptIds()).length >= MOST_KEPT)
      throw new BadRequestException(`${MOST_KEPT} templates are kept already. Remove one first.`);
    const id = randomUUID();
    const { stream, bytes } = await this.bundles.writeTemplate(projectId, { name, note, song });
    await this.room.require(bytes, 'The template').catch((error: unknown) => {
      stream.destroy();
      throw error;
    });
    await makeWhole(this.path(id), (unfinished) => pipeline(stream, createWriteStream(unfinished, { flags: 'wx' })));
    const answer = await this.answer(id);
    if (!answer) throw new BadRequestException('The template could not be kept: what was written cannot be read back. Try again.');
    this.known.set(id, answer);
    return answer;
  }

  /** Begins a project from a template. @param name of the project; left out, as the template is called */
  async begin(id: string, name?: string): Promise<OpenedBundleAnswer> {
    const ships = (await this.shipped.list()).find((t) => t.id === id);
    if (ships) {
      const made = await this.demo.makeFrom(this.config.demoFolder!, name ?? ships.name, JSON.stringify(ships.montage));
      return { project: projectAnswer(made), missing: [] };
    }
    const copy = join(this.config.incomingFolder, randomUUID());
    await copyFile(this.file(id), copy);
    return this.bundles.open(copy, name);
  }

  /** Removes one that was kept; until the server stops it can be brought back. */
  async remove(id: string): Promise<void> {
    await rename(this.file(id), `${this.path(id)}${REMOVED}`);
  }

  /** Brings back one that was removed. */
  async restore(id: string): Promise<void> {
    const removed = `${this.path(id)}${REMOVED}`;
    if (!ID.test(id) || !existsSync(removed)) throw new NotFoundException('That template can no longer be brought back.');
    await rename(removed, this.path(id));
  }

  /** Where one that was kept lies. @throws NotFoundException */
  file(id: string): string {
    const path = this.path(id);
    if (!ID.test(id) || !existsSync(path)) throw new NotFoundException('That template is no longer kept.');
    return path;
  }

  private path(id: string): string {
    return join(this.config.templatesFolder, `${id}${ENDING}`);
  }

  private async keptIds(): Promise<string[]> {
    const files = await readdir(this.config.templatesFolder);
    return files.flatMap((file) => (file.endsWith(ENDING) ? [file.slice(0, -ENDING.length)] : [])).filter((id) => ID.test(id));
  }

  private async answer(id: string): Promise<TemplateAnswer | null> {
    try {
      const bundle = await OpenBundle.open(this.path(id));
      bundle.close();
      const { name, template = '', files } = bundle.manifest;
      const facts = await this.montages.read(bundle.montage);
      const savedAt = Math.round((await stat(this.path(id))).mtimeMs);
      const hasSong = files.some((f) => f.kind === 'song' && f.file !== null);
      return { id, name, note: template, ships: false, savedAt, hasSong, ...shape(facts) };
    } catch (error) {
      this.log.warn(`A template that was kept cannot be read: ${id}: ${error instanceof Error ? error.message : String(error)}`);
      return null;
    }
  }
}
