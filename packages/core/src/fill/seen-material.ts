import type { Montage } from '../document/montage.ts';
import { stretchesOf } from '../document/footage-item.ts';
import { bestHits } from '../footage/best-hits.ts';
import type { ClipSummary } from '../footage/clip-summary.ts';
import { footageCommands } from '../footage/commands.ts';
import type { Peaks } from '../music/peaks.ts';
import { slotEnergies } from '../score/slot-energy.ts';
import { clipLooks } from './clip-looks.ts';
import { candidateKey, type FillKnowledge, type SelectLook } from './fill-options.ts';

/** What was seen in the footage and heard in the song: what best match needs to know follows from it, however pegs and selects lie. */
export interface SeenMaterial {
  /** outline of the song; null where it was not heard */
  readonly peaks: Peaks | null;
  /** clips that were looked at, by asset */
  readonly clips: Readonly<Record<string, ClipSummary>>;
  /** what clips are like on the whole that were only glanced at, by asset */
  readonly guessed?: Readonly<Record<string, SelectLook>>;
}

/** A montage whose clips have the best hits that were found in them, where they have none of their own. */
export function withFoundHits(montage: Montage, { clips }: SeenMaterial): Montage {
  const hits = bestHits(montage.footage, (id) => clips[id]?.hits ?? []);
  return hits.length > 0 ? footageCommands.takeHits.carryOut(montage, { hits }) : montage;
}

/**
 * What best match needs to know of a montage as it stands.
 * @returns energies by first pegs of slots, looks by clip and select; clips of which nothing was seen have none
 */
export function knowledgeFrom(montage: Montage, { peaks, clips, guessed = {} }: SeenMaterial): FillKnowledge {
  const looks = montage.footage.flatMap((item) => {
    const [summary, guess] = [clips[item.assetId], guessed[item.assetId]];
    if (summary) return clipLooks(item, summary);
    return guess ? stretchesOf(item).map((s) => [candidateKey(item.assetId, s.id), guess] as const) : [];
  });
  return { energy: peaks ? slotEnergies(montage, peaks) : {}, looks: Object.fromEntries(looks) };
}
