import { ROUTES } from '@bluster/wire/routes';
/** Pictures that are wanted, as the page and as the server names them. */
export interface TilesWish {
  readonly keys: readonly string[];
  readonly of: readonly string[];
}
/** What came: a picture for each, or null where there is none; null for all where the server did not answer. */
export interface TilesCame {
  readonly keys: readonly string[];
  readonly tiles: readonly (ImageBitmap | null)[] | null;
}

/** Fetches small pictures together and decodes them, off the page's own thread. */
onmessage = async ({ data: { keys, of } }: MessageEvent<TilesWish>) => {
  let tiles: (ImageBitmap | null)[] | null = null;
  try {
    const response = await fetch(ROUTES.tiles(of));
    if (response.ok) tiles = await Promise.all(split(await response.arrayBuffer()).map(decode));
  } catch {
    // They are asked for again after a while.
  }
  const came: TilesCame = { keys, tiles };
  postMessage(came, { transfer: (tiles ?? []).filter((t) => t !== null) });
};

function split(buffer: ArrayBuffer): Uint8Array<ArrayBuffer>[] {
  const view = new DataView(buffer);
  const parts: Uint8Array<ArrayBuffer>[] = [];
  for (let at = 0; at + 4 <= buffer.byteLength;) {
    const length = view.getUint32(at, true);
    parts.push(new Uint8Array(buffer, at + 4, length));
    at += 4 + length;
  }
  return parts;
}

const decode = (bytes: Uint8Array<ArrayBuffer>): Promise<ImageBitmap | null> =>
  bytes.length === 0 ? Promise.resolve(null) : createImageBitmap(new Blob([bytes], { type: 'image/jpeg' })).catch(() => null);
