import { mkdirSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';

/** Where the server listens and keeps its things. */
export class Config {
  constructor(
    readonly dataFolder: string,
    readonly port: number,
    /** the built pages, or null to serve none */
    readonly webFolder: string | null,
    readonly demoFolder: string | null = null,
    readonly host = '127.0.0.1',
    /** bytes of files that a project may hold */
    readonly projectQuota = 200e9,
    /** whether clips get previews: where nobody sees a page, none are needed */
    readonly makesPreviews = true,
  ) {}

  /** Makes the folders that are not there yet. */
  makeFolders(): void {
    for (const folder of [this.assetsFolder, this.incomingFolder, this.exportsFolder, this.templatesFolder])
      mkdirSync(folder, { recursive: true });
  }

  /** The songs that ship, beside the demo's material; null where that is not there. */
  get songsFolder(): string | null {
    return this.demoFolder === null ? null : join(dirname(resolve(this.demoFolder)), 'songs');
  }
  get databaseFile(): string {
    return join(resolve(this.dataFolder), 'bluster.sqlite');
  }
  get assetsFolder(): string {
    return join(resolve(this.dataFolder), 'assets');
  }
  get incomingFolder(): string {
    return join(resolve(this.dataFolder), 'incoming');
  }
  get backupsFolder(): string {
    return join(resolve(this.dataFolder), 'backups');
  }
  get templatesFolder(): string {
    return join(resolve(this.dataFolder), 'templates');
  }
  get exportsFolder(): string {
    return join(resolve(this.dataFolder), 'exports');
  }
}
