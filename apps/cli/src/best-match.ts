import { join } from 'node:path';
import { peaks, type ClipSummary, type SeenMaterial } from '@bluster/core';
import { ANALYSIS_RATE } from '@bluster/core/music/signal';
import { lookAtFilm } from '@bluster/media/clip/film-look';
import type { MediaProbe } from '@bluster/media/probe/probe';
import { hearAll } from '@bluster/media/sound/sound';

/** A clip to be looked at. */
export interface SeenClip {
  readonly assetId: string;
  readonly name: string;
  readonly path: string;
  readonly media: MediaProbe;
}

/** Looks at every clip: what moves in it, its colours, its hits. @param scratch a folder for what comes of it on the way */
export async function lookAtClips(
  clips: readonly SeenClip[],
  scratch: string,
  say: (text: string) => void,
): Promise<ReadonlyMap<string, ClipSummary>> {
  const seen = new Map<string, ClipSummary>();
  for (const { assetId, name, path, media } of clips) {
    say(`looking at ${name}`);
    const { summary } = await lookAtFilm(path, join(scratch, `${assetId}-strip.jpg`), media);
    seen.set(assetId, summary);
  }
  return seen;
}

/** What was seen in the clips and is heard in the song, decoded already. */
export async function seenMaterial(wav: string, seen: ReadonlyMap<string, ClipSummary>): Promise<SeenMaterial> {
  return { peaks: peaks({ samples: await hearAll(wav), rate: ANALYSIS_RATE }), clips: Object.fromEntries(seen) };
}
