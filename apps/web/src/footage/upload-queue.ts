import { create } from 'zustand';
import { mutate } from 'swr';
import { upload } from '../api/request.ts';
import type { Asset } from '../api/wire.ts';

/** A file on its way in. */
export interface Upload {
  readonly key: number;
  readonly name: string;
  readonly part: number;
  readonly state: 'waiting' | 'sending' | 'failed';
  readonly problem: string | null;
}

interface Queue {
  readonly uploads: readonly Upload[];
  add: (projectId: string, files: readonly File[], onDone: (asset: Asset) => void) => void;
  dismiss: (key: number) => void;
}

const AT_ONCE = 2;
let nextKey = 1;
const waiting: { key: number; projectId: string; file: File; onDone: (asset: Asset) => void }[] = [];
const stops = new Map<number, AbortController>();

/** Files being brought in, a few at a time; goes on when another view is looked at. */
export const useUploads = create<Queue>((set, get) => {
  const change = (key: number, to: Partial<Upload>): void =>
    set(({ uploads }) => ({ uploads: uploads.map((u) => (u.key === key ? { ...u, ...to } : u)) }));
  const drop = (key: number): void => set(({ uploads }) => ({ uploads: uploads.filter((u) => u.key !== key) }));
  const next = (): void => {
    while (stops.size < AT_ONCE) {
      const job = waiting.shift();
      if (!job) return;
      const stop = new AbortController();
      stops.set(job.key, stop);
      change(job.key, { state: 'sending' });
      upload<Asset>(`/api/projects/${job.projectId}/assets?role=footage`, job.file, (part) => change(job.key, { part }), stop.signal)
        .then(async (asset) => {
          await mutate(`/api/projects/${job.projectId}/assets`);
          job.onDone(asset);
          drop(job.key);
        })
        .catch((error: Error) => (stop.signal.aborted ? drop(job.key) : change(job.key, { state: 'failed', problem: error.message })))
        .finally(() => {
          stops.delete(job.key);
          next();
        });
    }
  };
  return {
    uploads: [],
    add: (projectId, files, onDone) => {
      for (const file of files) {
        const key = nextKey++;
        waiting.push({ key, projectId, file, onDone });
        set({ uploads: [...get().uploads, { key, name: file.name, part: 0, state: 'waiting', problem: null }] });
      }
      next();
    },
    dismiss: (key) => {
      const at = waiting.findIndex((w) => w.key === key);
      if (at >= 0) waiting.splice(at, 1);
      stops.get(key)?.abort();
      drop(key);
    },
  };
});
