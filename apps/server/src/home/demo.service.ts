import { BadRequestException, Injectable } from '@nestjs/common';
import { copyFile, readFile } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { readMontage } from '@bluster/core';
import { AssetsService } from '../assets/assets.service.ts';
import { Config } from '../config.ts';
import { MontagesService } from '../montages/montages.service.ts';
import type { ProjectEntity } from '../projects/project.entity.ts';
import { ProjectsService } from '../projects/projects.service.ts';
import { HomeService } from './home.service.ts';

/** The demo's montage names its material by file; each file becomes an asset. */
const DEMO_MONTAGE = 'kite-day.montage.json';
const DEMO_NAME = 'Kite Day on the Down';

/** Makes the demo project from the material that ships with Bluster. */
@Injectable()
export class DemoService {
  private making: Promise<ProjectEntity> | null = null;

  constructor(
    private readonly projects: ProjectsService,
    private readonly home: HomeService,
    private readonly montages: MontagesService,
    private readonly assets: AssetsService,
    private readonly config: Config,
  ) {}

  /** The demo project; made where there is none, once however often it is asked for at the same time. */
  async open(): Promise<ProjectEntity> {
    const there = await this.projects.findDemo();
    if (there) return there;
    this.making ??= this.make().finally(() => (this.making = null));
    return this.making;
  }

  private async make(): Promise<ProjectEntity> {
    const folder = this.config.demoFolder;
    if (!folder) throw new BadRequestException('This server was started without the demo material.');
    const text = await readFile(join(folder, DEMO_MONTAGE), 'utf8');
    return this.makeFrom(folder, DEMO_NAME, text, true);
  }

  /**
   * Makes a project from a montage that names its material by the files beside which it ships.
   * @param text the montage as JSON
   */
  async makeFrom(folder: string, name: string, text: string, demo = false): Promise<ProjectEntity> {
    const montage = readMontage(JSON.parse(text));
    const project = await this.home.create(name, demo);
    const ids = new Map<string, string>();
    const bring = async (file: string, role: 'song' | 'footage'): Promise<void> => {
      const incoming = join(this.config.incomingFolder, randomUUID());
      await copyFile(join(folder, file), incoming);
      ids.set(file, (await this.assets.takeIn(project.id, incoming, file, role)).id);
    };
    if (montage.song) await bring(montage.song.assetId, 'song');
    for (const item of montage.footage) await bring(item.assetId, 'footage');
    await this.montages.save(project.id, 1, await this.montages.copied(text, ids));
    return project;
  }
}
