import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { mutate } from 'swr';
import { ROUTES } from '@bluster/wire/routes';
import type { ProjectAnswer as Project, ShippedSongAnswer } from '@bluster/wire';
import { request } from '../api/request.ts';
import { askSong } from '../arrivals/song-question.tsx';
import { nameFor, sortFiles } from '../arrivals/sort-files.ts';
import { sortedInWords, takeTogether } from '../arrivals/take-together.ts';
import { sayProblem } from '../interface/say-problem.ts';

/** A song and footage that are dropped together begin a project: each goes where it belongs. */
export function useDropIn(): {
  readonly rootProps: ReturnType<ReturnType<typeof useDropzone>['getRootProps']>;
  readonly input: React.JSX.Element;
  readonly isOver: boolean;
  readonly beginning: boolean;
  readonly choose: () => void;
  /** begins a project with a song that comes with Bluster */
  readonly beginWith: (id: string) => void;
  readonly taking: string | null;
} {
  const [beginning, setBeginning] = useState(false);
  const [taking, setTaking] = useState<string | null>(null);
  const navigate = useNavigate();
  const begin = async (work: () => Promise<void>): Promise<void> => {
    setBeginning(true);
    try {
      await work();
    } catch (problem) {
      sayProblem(problem);
    } finally {
      setBeginning(false);
      setTaking(null);
    }
  };
  const newProject = async (name: string): Promise<string> => {
    const { id } = await request<Project>('POST', ROUTES.projects(), { name });
    void mutate(ROUTES.projects());
    return id;
  };
  const drop = async (files: readonly File[]): Promise<void> => {
    if (files.length === 0) return;
    const sorted = await sortFiles(files, askSong);
    await begin(async () => {
      const id = await newProject(nameFor(files, sorted.song));
      takeTogether(id, sorted);
      toast(sortedInWords(sorted, true), { duration: 10_000 });
      await navigate(`/projects/${id}/song`);
    });
  };
  const beginWith = (song: string): void => {
    setTaking(song);
    void begin(async () => {
      const { title } = (await request<ShippedSongAnswer[]>('GET', ROUTES.songs())).find((s) => s.id === song)!;
      const id = await newProject(title);
      await request('POST', ROUTES.takeSong(id), { song });
      await navigate(`/projects/${id}/song`);
    });
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => void drop(files),
    noClick: true,
    noKeyboard: true,
  });
  return {
    rootProps: getRootProps(),
    input: <input {...getInputProps()} aria-label="Song and footage" data-testid="drop-in" />,
    isOver: isDragActive,
    beginning,
    choose: open,
    beginWith,
    taking,
  };
}
