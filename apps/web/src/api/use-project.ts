import { useMemo } from 'react';
import useSWR from 'swr';
import type { Asset, Job, Project } from './wire.ts';

const SOON_MS = 500;

export function useProject(projectId: string): { project: Project | undefined; error: Error | undefined; reload: () => void } {
  const { data, error, mutate } = useSWR<Project, Error>(`/api/projects/${projectId}`);
  return { project: data, error, reload: () => void mutate() };
}

/** A project's files; asked for again while some are being made ready. */
export function useAssets(projectId: string): {
  assets: ReadonlyMap<string, Asset>;
  loaded: boolean;
  error: Error | undefined;
  reload: () => Promise<unknown>;
} {
  const { data, error, mutate } = useSWR<Asset[], Error>(`/api/projects/${projectId}/assets`, {
    refreshInterval: (latest) => (latest?.some((a) => a.state === 'working') ? SOON_MS : 0),
  });
  const assets = useMemo(() => new Map((data ?? []).map((a) => [a.id, a])), [data]);
  return { assets, loaded: data !== undefined, error, reload: mutate };
}

/** A project's jobs, newest first; asked for again while some are under way. */
export function useJobs(projectId: string): { jobs: readonly Job[]; reload: () => Promise<unknown> } {
  const { data, mutate } = useSWR<Job[], Error>(`/api/projects/${projectId}/jobs`, {
    refreshInterval: (latest) => (latest?.some((j) => j.state === 'queued' || j.state === 'running') ? SOON_MS : 0),
  });
  return { jobs: data ?? [], reload: mutate };
}
