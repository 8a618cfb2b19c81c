import type { AssetAnswer } from '@bluster/wire';
import type { AssetEntity } from './asset.entity.ts';

/** A file as it goes over the wire. */
export function assetAnswer({ id, kind, name, size, state, problem, createdAt, awaits, info }: AssetEntity): AssetAnswer {
  return { id, kind, name, size, state, problem, createdAt, awaits, info };
}
