import useSWR from 'swr';
import type { Asset, ClipLook } from '../api/wire.ts';

/** What was seen and heard in a clip, once it was looked at. */
export function useClipLook(asset: Asset | undefined): ClipLook | undefined {
  const { data } = useSWR<ClipLook, Error>(asset?.kind === 'clip' && asset.info.looked ? `/api/assets/${asset.id}/look` : null, {
    revalidateIfStale: false,
    revalidateOnFocus: false,
  });
  return data;
}
