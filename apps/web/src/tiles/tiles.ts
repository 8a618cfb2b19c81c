import type { AssetAnswer as Asset } from '@bluster/wire';
import type { TilesCame, TilesWish } from './tiles.worker.ts';
import TilesWorker from './tiles.worker.ts?worker';

/** Decoded pictures that are kept, some 58 kB each. */
const MOST_KEPT = 1500;
/** The server answers for this many at once. */
const MOST_ASKED = 64;
/** How long it waits where the server does not answer. */
const AGAIN_MS = 3000;

/** Ends the names of pictures that others take the place of, once their clip has been looked at. */
const ROUGH = '~';

/** In the order in which they were last wanted. */
const kept = new Map<string, ImageBitmap>();
const asked = new Set<string>();
/** Those that the server does not have. */
const absent = new Set<string>();
const waiting = new Set<() => void>();
let fresh: string[] = [];
let worker: Worker | null = null;

function tellAll(): void {
  for (const tell of waiting) tell();
}

function take({ data: { keys, tiles } }: MessageEvent<TilesCame>): void {
  keys.forEach((key, i) => {
    asked.delete(key);
    const tile = tiles?.[i];
    if (tile) kept.set(key, tile);
    else if (tiles) absent.add(key);
  });
  // Whoever still waits asks again when it is told.
  if (!tiles) {
    setTimeout(tellAll, AGAIN_MS);
    return;
  }
  for (const [key, tile] of kept) {
    if (kept.size <= MOST_KEPT) break;
    kept.delete(key);
    tile.close();
  }
  tellAll();
}

function ask(): void {
  if (!worker) {
    worker = new TilesWorker();
    worker.onmessage = take;
  }
  const keys = fresh;
  fresh = [];
  for (let at = 0; at < keys.length; at += MOST_ASKED) {
    const named = keys.slice(at, at + MOST_ASKED);
    const wish: TilesWish = { keys: named, of: named.map((key) => key.replace(ROUGH, '')) };
    worker.postMessage(wish);
  }
}

/** The name of the picture of a clip or photo at a moment of it, clip seconds; null while it has none. */
export function tileKey(asset: Asset | undefined, time: number): string | null {
  // A film's pictures are there before its preview is; a photo's not until it is ready.
  if (!asset || (asset.state !== 'ready' && !(asset.info.strip && asset.state === 'working'))) return null;
  const { strip } = asset.info;
  const picture = strip ? Math.max(0, Math.min(strip.pictures - 1, Math.round(time / strip.every))) : 0;
  return `${asset.id}.${picture}${strip?.rough ? ROUGH : ''}`;
}

/** A picture that is here; where it is not, it is asked for, together with all others that are wanted in this turn. */
export function tile(key: string): ImageBitmap | null {
  const found = kept.get(key);
  if (found) {
    kept.delete(key);
    kept.set(key, found);
    return found;
  }
  if (!asked.has(key) && !absent.has(key)) {
    asked.add(key);
    if (fresh.length === 0) queueMicrotask(ask);
    fresh.push(key);
  }
  return null;
}

/** Tells when pictures came. @returns ends the telling */
export function onTiles(tell: () => void): () => void {
  waiting.add(tell);
  return () => waiting.delete(tell);
}
