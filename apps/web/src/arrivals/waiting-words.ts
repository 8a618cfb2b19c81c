import { useEffect } from 'react';
import { create } from 'zustand';
import { useEditor } from '../document/editor.ts';
import { useListening } from '../marking/listening.ts';
import { takeMarksFile } from '../marking/take-marks-file.ts';

/** Captions and lyrics that came before the song was marked, by project. */
export const useWaitingWords = create<{ readonly files: ReadonlyMap<string, readonly File[]> }>(() => ({ files: new Map() }));

/** Keeps words until the song that they belong to is marked. */
export function keepWords(projectId: string, words: readonly File[]): void {
  if (words.length === 0) return;
  const { files } = useWaitingWords.getState();
  useWaitingWords.setState({ files: new Map(files).set(projectId, [...(files.get(projectId) ?? []), ...words]) });
}

/** Hangs the words that wait onto the song of a project, once that is there and nobody listens to it any more. */
export function useWordsThatWait(projectId: string): void {
  const waiting = useWaitingWords((state) => state.files.get(projectId));
  const songId = useEditor((state) => state.history.now.song?.assetId);
  const marked = useEditor((state) => state.history.now.marks.length > 0);
  const heard = useListening((state) => state.part === null && (marked || state.assetId === songId));
  const due = waiting !== undefined && songId !== undefined && heard;
  useEffect(() => {
    if (!due) return;
    const files = new Map(useWaitingWords.getState().files);
    files.delete(projectId);
    useWaitingWords.setState({ files });
    void (async () => {
      for (const file of waiting) await takeMarksFile(file);
    })();
  }, [due, projectId, waiting]);
}
