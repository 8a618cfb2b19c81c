import { Injectable } from '@nestjs/common';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { readTemplate, type ShippedTemplate } from '@bluster/core';
import { Config } from '../config.ts';

const ENDING = '.template.json';

/** A template that ships, by its short name. */
export interface Shipped extends ShippedTemplate {
  readonly id: string;
}

/** The templates that ship with Bluster, beside the demo's songs. */
@Injectable()
export class ShippedTemplates {
  private all: Promise<readonly Shipped[]> | null = null;

  constructor(private readonly config: Config) {}

  /** In the order of their names; none where the server was started without the demo material. */
  list(): Promise<readonly Shipped[]> {
    // What could not be read once may be read the next time.
    this.all ??= this.read().catch((error: unknown) => {
      this.all = null;
      throw error;
    });
    return this.all;
  }

  private async read(): Promise<readonly Shipped[]> {
    const folder = this.config.demoFolder;
    if (!folder) return [];
    const files = (await readdir(folder)).filter((file) => file.endsWith(ENDING)).sort();
    return Promise.all(
      files.map(async (file) => ({
        id: file.slice(0, -ENDING.length),
        ...readTemplate(JSON.parse(await readFile(join(folder, file), 'utf8'))),
      })),
    );
  }
}
