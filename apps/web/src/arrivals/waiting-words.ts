import { useEffect } from 'react';
import { toast } from 'sonner';
import { create } from 'zustand';
import { readMarks } from '@bluster/core';
import { useEditor } from '../document/editor.ts';
import { sayProblem } from '../interface/say-problem.ts';
import { useListening } from '../marking/listening.ts';

/** Captions and lyrics that came before the song was marked, by project. */
export const useWaitingWords = create<{ readonly files: ReadonlyMap<string, readonly File[]> }>(() => ({ files: new Map() }));

/** Keeps words until the song that they belong to is marked. */
export function keepWords(projectId: string, words: readonly File[]): void {
  if (words.length === 0) return;
  const { files } = useWaitingWords.getState();
  useWaitingWords.setState({ files: new Map(files).set(projectId, [...(files.get(projectId) ?? []), ...words]) });
}

async function takeWords(file: File): Promise<void> {
  try {
    const marking = readMarks(file.name, new Uint8Array(await file.arrayBuffer()));
    if (useEditor.getState().run({ do: 'takeMarking', marking }))
      toast(`${marking.marks.length} cues read from ${file.name}. ${marking.notes.join(' ')}`);
  } catch (problem) {
    sayProblem(problem, file.name);
  }
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
      for (const file of waiting) await takeWords(file);
    })();
  }, [due, projectId, waiting]);
}
