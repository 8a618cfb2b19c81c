import { ROUTES } from '@bluster/wire/routes';
import {
  ORDERS,
  knowledgeFrom,
  type FillOptions,
  type FillPlan,
  type FirstCut,
  type FirstCutWish,
  type FootageItem,
  type Montage,
  type SeenMaterial,
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

/** What a clip or photo is like on the whole, as far as that is known; null where nothing is. */
function onTheWhole(asset: Asset | undefined): SelectLook | null {
  const { movement, brightness, sharpness, colours } = asset?.info ?? {};
  if (brightness === undefined && movement === undefined) return null;
  return { movement: movement ?? 0, brightness: brightness ?? 0.5, sharpness: sharpness ?? 0.5, colours: colours ?? [] };
}

/** What was seen in the footage and heard in the song. @param meant clips whose curves are needed */
async function seenMaterial(
  { footage }: Montage,
  assets: ReadonlyMap<string, Asset>,
  meant: (item: FootageItem) => boolean,
): Promise<SeenMaterial> {
  const looked = footage.filter((item) => item.kind === 'clip' && assets.get(item.assetId)?.info.looked && meant(item));
  const clips = await Promise.all(looked.map(async ({ assetId }) => [assetId, await lookOf(assetId)] as const));
  const guessed = footage.map(({ assetId }) => [assetId, onTheWhole(assets.get(assetId))] as const);
  const known = <T>(pairs: readonly (readonly [string, T | null])[]): Record<string, T> =>
    Object.fromEntries(pairs.filter((pair): pair is readonly [string, T] => pair[1] !== null));
  return { peaks: useSongSound.getState().peaks, clips: known<ClipLook>(clips), guessed: known(guessed) };
}

/** What filling would do. */
export async function fillPlan(montage: Montage, options: FillOptions, assets: ReadonlyMap<string, Asset>): Promise<FillPlan> {
  // What a clip is like on the whole is known already; its curves are fetched only where a part is meant.
  const seen = ORDERS[options.order].matches ? await seenMaterial(montage, assets, (item) => item.selects.length > 0) : null;
  return worker.ask('fill', { montage, options, knowledge: seen ? knowledgeFrom(montage, seen) : undefined });
}

/** A cut of the whole song, to go on from. */
export async function firstCutOf(montage: Montage, wish: FirstCutWish, assets: ReadonlyMap<string, Asset>): Promise<FirstCut> {
  const seen = await seenMaterial(montage, assets, () => true);
  const cut = await worker.ask('firstCut', { montage, wish, seen });
  const unseen = montage.footage.filter((item) => item.kind === 'clip' && !assets.get(item.assetId)?.info.looked).length;
  if (unseen === 0) return cut;
  const many = unseen === 1 ? 'One clip is' : `${unseen} clips are`;
  return { ...cut, said: [...cut.said, `${many} still being looked through: another cut, in a while, knows what happens in them.`] };
}

/** Where cuts would come to lie. */
export function settlePlan(montage: Montage, options: SettleOptions): Promise<SettlePlan> {
  return worker.ask('settle', { montage, options });
}
