import { ROUTES } from '@bluster/wire/routes';
import { useMemo } from 'react';
import useSWR from 'swr';
import { useChanges, useFollowing } from './use-changes.ts';
import type { AssetAnswer as Asset, JobAnswer as Job, ProjectAnswer as Project } from '@bluster/wire';

/** How often lists are asked for while there is work under way and the server does not tell what changes. */
const SOON_MS = 500;

const isUnderWay = (job: Job): boolean => job.state === 'queued' || job.state === 'running';

export function useProject(projectId: string): { project: Project | undefined; error: Error | undefined; reload: () => void } {
  const { data, error, mutate } = useSWR<Project, Error>(ROUTES.project(projectId));
  return { project: data, error, reload: () => void mutate() };
}

/** A project's files; asked for again while some are being made ready. */
export function useAssets(projectId: string): {
  assets: ReadonlyMap<string, Asset>;
  loaded: boolean;
  error: Error | undefined;
  reload: () => Promise<unknown>;
} {
  const live = useFollowing((state) => state.live);
  const { data, error, mutate } = useSWR<Asset[], Error>(ROUTES.assets(projectId), {
    refreshInterval: (latest) => (!live && latest?.some((a) => a.state === 'working') ? SOON_MS : 0),
  });
  const assets = useMemo(() => new Map((data ?? []).map((a) => [a.id, a])), [data]);
  return { assets, loaded: data !== undefined, error, reload: mutate };
}

/** A project's jobs, newest first; asked for again while some are under way. */
export function useJobs(projectId: string): { jobs: readonly Job[]; reload: () => Promise<unknown> } {
  const live = useFollowing((state) => state.live);
  const { data, mutate } = useSWR<Job[], Error>(ROUTES.jobs(projectId), {
    refreshInterval: (latest) => (!live && latest?.some(isUnderWay) ? SOON_MS : 0),
  });
  return { jobs: data ?? [], reload: mutate };
}

/** Keeps a project's files and jobs as they are on the server; used once, where the project is open. */
export function useFollowedProject(projectId: string): void {
  const { assets } = useAssets(projectId);
  const { jobs } = useJobs(projectId);
  useChanges(projectId, jobs.some(isUnderWay) || [...assets.values()].some((asset) => asset.state === 'working'));
}
