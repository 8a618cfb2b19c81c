import { ROUTES } from '@bluster/wire/routes';
import {
  ORDERS,
  candidateKey,
  clipLooks,
  slotEnergies,
  stretchesOf,
  type FillKnowledge,
  type FillOptions,
  type FillPlan,
  type FirstCut,
  type FirstCutWish,
  type FoundHits,
  type FootageItem,
  type Montage,
  type SelectLook,
  type SettleOptions,
  type SettlePlan,
} from '@bluster/core';
import { fetchJson } from '../../api/request.ts';
import type { AssetAnswer as Asset, ClipLook } from '@bluster/wire';
import { useSongSound } from '../../playback/song-sound.ts';
import { WorkerRequests } from '../../workers/worker-requests.ts';
import type { PlanningRequests } from './planning.worker.ts';
import PlanningWorker from './planning.worker.ts?worker';

const worker = new WorkerRequests<PlanningRequests>(() => new PlanningWorker());

const looks = new Map<string, Promise<ClipLook | null>>();

function lookOf(assetId: string): Promise<ClipLook | null> {
  let look = looks.get(assetId);
  if (!look) {
    look = fetchJson<ClipLook>(ROUTES.assetPart(assetId, 'look')).catch(() => {
      looks.delete(assetId);
      return null;
    });
    looks.set(assetId, look);
  }
  return look;
}

async function looksOf(item: FootageItem, asset: Asset | undefined): Promise<(readonly [string, SelectLook])[]> {
  const { movement, brightness, sharpness, colours } = asset?.info ?? {};
  if (brightness === undefined && movement === undefined) return [];
  const whole = { movement: movement ?? 0, brightness: brightness ?? 0.5, sharpness: sharpness ?? 0.5, colours: colours ?? [] };
  // What a clip is like on the whole is known already; its curves are fetched only where a part is meant.
  const look = item.selects.length > 0 && asset?.info.looked ? await lookOf(item.assetId) : null;
  return look ? clipLooks(item, look) : stretchesOf(item).map((s) => [candidateKey(item.assetId, s.id), whole] as const);
}

/** What best match needs to know of the song and the footage. */
async function knowledgeOf(montage: Montage, assets: ReadonlyMap<string, Asset>): Promise<FillKnowledge> {
  const { peaks } = useSongSound.getState();
  const found = await Promise.all(montage.footage.map((item) => looksOf(item, assets.get(item.assetId))));
  return { energy: peaks ? slotEnergies(montage, peaks) : {}, looks: Object.fromEntries(found.flat()) };
}

/** What filling would do. */
export async function fillPlan(montage: Montage, options: FillOptions, assets: ReadonlyMap<string, Asset>): Promise<FillPlan> {
  const knowledge = ORDERS[options.order].matches ? await knowledgeOf(montage, assets) : undefined;
  return worker.ask('fill', { montage, options, knowledge });
}

/** The hits that were found in the clips. */
async function foundHits(montage: Montage, assets: ReadonlyMap<string, Asset>): Promise<FoundHits> {
  const looked = montage.footage.filter((item) => item.kind === 'clip' && assets.get(item.assetId)?.info.looked);
  return Object.fromEntries(await Promise.all(looked.map(async ({ assetId }) => [assetId, (await lookOf(assetId))?.hits ?? []] as const)));
}

/** A cut of the whole song, to go on from. */
export async function firstCutOf(montage: Montage, wish: FirstCutWish, assets: ReadonlyMap<string, Asset>): Promise<FirstCut> {
  const knowledge = wish.order === 'match' ? await knowledgeOf(montage, assets) : undefined;
  const cut = await worker.ask('firstCut', { montage, wish, found: await foundHits(montage, assets), knowledge });
  const unseen = montage.footage.filter((item) => item.kind === 'clip' && !assets.get(item.assetId)?.info.looked).length;
  if (unseen === 0) return cut;
  const many = unseen === 1 ? 'One clip is' : `${unseen} clips are`;
  return { ...cut, said: [...cut.said, `${many} still being looked through: another cut, in a while, knows what happens in them.`] };
}

/** Where cuts would come to lie. */
export function settlePlan(montage: Montage, options: SettleOptions): Promise<SettlePlan> {
  return worker.ask('settle', { montage, options });
}
