import { join } from 'node:path';
import { bestHits, carryOut, clipLooks, peaks, slotEnergies, type ClipSummary, type FillKnowledge, type Montage } from '@bluster/core';
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

/** The montage with the best hit of each clip taken, where one was found. */
export function withHits(montage: Montage, seen: ReadonlyMap<string, ClipSummary>): Montage {
  const hits = bestHits(montage.footage, (id) => seen.get(id)?.hits ?? []);
  return hits.length > 0 ? carryOut(montage, { do: 'takeHits', hits }) : montage;
}

/** What best match needs to know of the song, decoded already, and the footage. */
export async function matchKnowledge(montage: Montage, wav: string, seen: ReadonlyMap<string, ClipSummary>): Promise<FillKnowledge> {
  const outline = peaks({ samples: await hearAll(wav), rate: ANALYSIS_RATE });
  const looks = montage.footage.flatMap((item) => {
    const summary = seen.get(item.assetId);
    return summary ? clipLooks(item, summary) : [];
  });
  return { energy: slotEnergies(montage, outline), looks: Object.fromEntries(looks) };
}
