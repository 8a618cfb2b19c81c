import { useRef, useState } from 'react';
import { upload } from '../api/request.ts';
import { useAssets } from '../api/use-project.ts';
import type { Asset } from '../api/wire.ts';

export interface SongUpload {
  readonly name: string;
  readonly part: number;
}

/** Brings a song in: uploads it, then hands over the asset. */
export function useSongUpload(
  projectId: string,
  onDone: (asset: Asset) => void,
): { now: SongUpload | null; problem: string | null; start: (file: File) => void; cancel: () => void } {
  const [now, setNow] = useState<SongUpload | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const stop = useRef<AbortController | null>(null);
  const { reload } = useAssets(projectId);
  const start = (file: File): void => {
    stop.current?.abort();
    const own = new AbortController();
    stop.current = own;
    setProblem(null);
    setNow({ name: file.name, part: 0 });
    upload<Asset>(`/api/projects/${projectId}/assets?role=song`, file, (part) => setNow({ name: file.name, part }), own.signal)
      .then(async (asset) => {
        await reload();
        onDone(asset);
      })
      .catch((error: Error) => !own.signal.aborted && setProblem(error.message))
      .finally(() => setNow(null));
  };
  return { now, problem, start, cancel: () => stop.current?.abort() };
}
