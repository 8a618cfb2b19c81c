import { useUploads } from './upload-queue.ts';
import type { SortedFiles } from './sort-files.ts';
import { keepWords } from './waiting-words.ts';

/** What becomes of files that came together, in a sentence. @param waits whether there is no song yet */
export function sortedInWords({ song, footage, words }: SortedFiles, waits: boolean): string {
  const count = footage.length;
  const parts = [
    ...(song
      ? [`${song.name} is the song.`]
      : waits
        ? ['No song was among them: choose one of yours, or one that comes with Bluster.']
        : []),
    ...(count > 0 ? [`${count} ${count === 1 ? 'file goes' : 'files go'} to the footage.`] : []),
    ...(words.length > 0 ? [`${words.map((w) => w.name).join(', ')}: its lines become cues once the song is marked.`] : []),
  ];
  return parts.join(' ');
}

/** Brings files in where they belong; the song goes ahead of the others. */
export function takeTogether(projectId: string, { song, footage, words }: SortedFiles): void {
  const { add } = useUploads.getState();
  if (song) add(projectId, [song], 'song');
  if (footage.length > 0) add(projectId, footage, 'footage');
  keepWords(projectId, words);
}
