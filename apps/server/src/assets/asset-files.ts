import { join } from 'node:path';
import { Injectable, NotFoundException } from '@nestjs/common';
import { Config } from '../config.ts';

/** Bytes. */
export const LARGEST_UPLOAD = 20 * 2 ** 30;

/** The parts an asset may have. Names are fixed, so nothing that a person typed becomes part of a path. */
export const ASSET_PARTS = {
  original: 'original',
  sound: 'sound.wav',
  proxy: 'proxy.mp4',
  strip: 'strip.jpg',
  tiles: 'tiles.pack',
  look: 'look.json',
  photo: 'photo.jpg',
  thumb: 'thumb.jpg',
} as const;
export type AssetPart = keyof typeof ASSET_PARTS;
/** The names that may be asked for, as an enumeration. */
export const PART_NAMES = Object.fromEntries(Object.keys(ASSET_PARTS).map((p) => [p, p]));

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Where the files of assets lie. */
@Injectable()
export class AssetFiles {
  constructor(private readonly config: Config) {}

  folder(assetId: string): string {
    if (!UUID.test(assetId)) throw new NotFoundException('There is no such file.');
    return join(this.config.assetsFolder, assetId);
  }

  path(assetId: string, part: AssetPart): string {
    return join(this.folder(assetId), ASSET_PARTS[part]);
  }
}

/** A name as a person may see it: no folders, no control characters, at most 200 characters. */
export function displayName(raw: string): string {
  const last = raw.replace(/\\/g, '/').split('/').at(-1) ?? '';
  // oxlint-disable-next-line no-control-regex
  const clean = last.replace(/[\u0000-\u001f\u007f\u202a-\u202e\u2066-\u2069]/g, '').trim();
  const letters = [...clean];
  return (letters.length > 200 ? `${letters.slice(0, 190).join('')}…${letters.slice(-9).join('')}` : clean) || 'unnamed';
}
