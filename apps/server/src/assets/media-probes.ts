import { Injectable } from '@nestjs/common';
import { probe, type MediaProbe } from '@bluster/media/probe/probe';
import type { AssetEntity } from './asset.entity.ts';
import { AssetFiles } from './asset-files.ts';

/** So many are remembered: those of files that came last. */
const MOST = 1000;

/** What files are, found out once for making them ready and for all films of them: to ask takes longer than many a short clip to look at. */
@Injectable()
export class MediaProbes {
  private readonly known = new Map<string, MediaProbe>();

  constructor(private readonly files: AssetFiles) {}

  /** Remembers what a file is. */
  keep(id: string, media: MediaProbe): void {
    this.known.set(id, media);
    for (const oldest of this.known.keys()) {
      if (this.known.size <= MOST) break;
      this.known.delete(oldest);
    }
  }

  /** What a file is. @throws UnusableMediaError where its original cannot be read */
  async of({ id, name }: Pick<AssetEntity, 'id' | 'name'>, signal?: AbortSignal): Promise<MediaProbe> {
    const known = this.known.get(id);
    if (known) return known;
    const media = await probe(this.files.path(id, 'original'), name, signal);
    this.keep(id, media);
    return media;
  }

  /** Forgets a file that is removed. */
  forget(id: string): void {
    this.known.delete(id);
  }
}
