import { ROUTES } from '@bluster/wire/routes';
import useSWR from 'swr';
import type { AssetAnswer as Asset, ClipLook } from '@bluster/wire';

/** What was seen and heard in a clip, once it was looked at. */
export function useClipLook(asset: Asset | undefined): ClipLook | undefined {
  const { data } = useSWR<ClipLook, Error>(asset?.kind === 'clip' && asset.info.looked ? ROUTES.assetPart(asset.id, 'look') : null, {
    revalidateIfStale: false,
    revalidateOnFocus: false,
  });
  return data;
}
