import type { Changes, AssetAnswer, JobAnswer } from '@bluster/wire';
import { ROUTES } from '@bluster/wire/routes';
import { useEffect } from 'react';
import { mutate } from 'swr';
import { create } from 'zustand';

/** Whether the server tells what changes, so that nobody has to ask. */
export const useFollowing = create<{ readonly live: boolean }>(() => ({ live: false }));

/** A list with one of its items as it is now; the newest first where it is new. */
function withItem<T extends { readonly id: string }>(list: readonly T[] | undefined, item: T): readonly T[] | undefined {
  if (!list) return list;
  return list.some((other) => other.id === item.id) ? list.map((other) => (other.id === item.id ? item : other)) : [item, ...list];
}

/**
 * Follows what becomes of a project's files and jobs while there is work under way and the page is looked at. Where the
 * stream is cut, the lists are asked for again and again instead, until it is there again.
 */
export function useChanges(projectId: string, underWay: boolean): void {
  useEffect(() => {
    if (!underWay) return undefined;
    let source: EventSource | null = null;
    const [assets, jobs] = [ROUTES.assets(projectId), ROUTES.jobs(projectId)];
    const stop = (): void => {
      source?.close();
      source = null;
      useFollowing.setState({ live: false });
    };
    const follow = (): void => {
      stop();
      if (document.hidden) return;
      source = new EventSource(ROUTES.changes(projectId));
      const on = <N extends keyof Changes>(name: N, take: (what: Changes[N]) => void): void =>
        source!.addEventListener(name, ({ data }: MessageEvent<string>) => take(JSON.parse(data) as Changes[N]));
      const fresh = { revalidate: false };
      on('job', (job) => void mutate<readonly JobAnswer[]>(jobs, (list) => withItem(list, job), fresh));
      on('asset', (asset) => void mutate<readonly AssetAnswer[]>(assets, (list) => withItem(list, asset), fresh));
      source.addEventListener('gone', ({ data }: MessageEvent<string>) => {
        void mutate<readonly AssetAnswer[]>(assets, (list) => list?.filter((asset) => asset.id !== data), fresh);
      });
      // What happened before is not told again.
      source.onopen = () => {
        useFollowing.setState({ live: true });
        void Promise.all([mutate(assets), mutate(jobs)]);
      };
      source.onerror = () => useFollowing.setState({ live: false });
    };
    follow();
    document.addEventListener('visibilitychange', follow);
    return () => {
      document.removeEventListener('visibilitychange', follow);
      stop();
    };
  }, [projectId, underWay]);
}
