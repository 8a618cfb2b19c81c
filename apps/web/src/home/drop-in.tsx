import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { mutate } from 'swr';
import { ROUTES } from '@bluster/wire/routes';
import type { ProjectAnswer as Project } from '@bluster/wire';
import { request } from '../api/request.ts';
import { useUploads } from '../arrivals/upload-queue.ts';
import { sayProblem } from '../interface/say-problem.ts';
import { nameFor, sortFiles, type SortedFiles } from './sort-files.ts';

/** What becomes of the files, in a sentence. */
function inWords({ song, footage, words }: SortedFiles): string {
  const parts = [
    song ? `${song.name} is the song.` : 'No song was among them: choose one under Song.',
    ...(footage.length > 0 ? [`${footage.length} ${footage.length === 1 ? 'file goes' : 'files go'} to the footage.`] : []),
    ...(words.length > 0 ? [`${words.map((w) => w.name).join(', ')}: read it under Song once that is marked.`] : []),
  ];
  return parts.join(' ');
}

/** A song and footage that are dropped together begin a project: each goes where it belongs. */
export function useDropIn(): {
  readonly rootProps: ReturnType<ReturnType<typeof useDropzone>['getRootProps']>;
  readonly input: React.JSX.Element;
  readonly isOver: boolean;
  readonly beginning: boolean;
  readonly choose: () => void;
} {
  const [beginning, setBeginning] = useState(false);
  const navigate = useNavigate();
  const begin = async (files: readonly File[]): Promise<void> => {
    if (files.length === 0) return;
    setBeginning(true);
    try {
      const sorted = await sortFiles(files);
      const project = await request<Project>('POST', ROUTES.projects(), { name: nameFor(files, sorted.song) });
      const { add } = useUploads.getState();
      if (sorted.song) add(project.id, [sorted.song], 'song');
      if (sorted.footage.length > 0) add(project.id, sorted.footage, 'footage');
      void mutate(ROUTES.projects());
      toast(inWords(sorted), { duration: 10_000 });
      await navigate(`/projects/${project.id}/${sorted.song ? 'song' : 'footage'}`);
    } catch (problem) {
      sayProblem(problem);
    } finally {
      setBeginning(false);
    }
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => void begin(files),
    noClick: true,
    noKeyboard: true,
  });
  return {
    rootProps: getRootProps(),
    input: <input {...getInputProps()} aria-label="Song and footage" data-testid="drop-in" />,
    isOver: isDragActive,
    beginning,
    choose: open,
  };
}
