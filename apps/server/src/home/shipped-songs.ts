import { Injectable, NotFoundException } from '@nestjs/common';
import { copyFile, readFile } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import type { ShippedSongAnswer } from '@bluster/wire';
import type { AssetEntity } from '../assets/asset.entity.ts';
import { AssetsService } from '../assets/assets.service.ts';
import { Config } from '../config.ts';
import { ProjectsService } from '../projects/projects.service.ts';

const LIST = 'songs.json';
const ENDING = '.ogg';

/** The made-up songs that ship with Bluster: listed, heard, and taken into projects. */
@Injectable()
export class ShippedSongs {
  constructor(
    private readonly config: Config,
    private readonly projects: ProjectsService,
    private readonly assets: AssetsService,
  ) {}

  /** None where the server was started without the material that ships. */
  async list(): Promise<ShippedSongAnswer[]> {
    const folder = this.config.songsFolder;
    return folder ? (JSON.parse(await readFile(join(folder, LIST), 'utf8')) as ShippedSongAnswer[]) : [];
  }

  /** The file of one. @throws NotFoundException for a name that is not in the list */
  async file(id: string): Promise<string> {
    if (!(await this.list()).some((song) => song.id === id)) throw new NotFoundException('No song of this name ships with Bluster.');
    return join(this.config.songsFolder!, id + ENDING);
  }

  /** Takes a copy of one in as a project's song, as if its file had been brought in. */
  async take(projectId: string, id: string): Promise<AssetEntity> {
    await this.projects.find(projectId);
    const file = await this.file(id);
    const { title } = (await this.list()).find((song) => song.id === id)!;
    const incoming = join(this.config.incomingFolder, randomUUID());
    await copyFile(file, incoming);
    return this.assets.takeIn(projectId, incoming, title + ENDING, 'song');
  }
}
