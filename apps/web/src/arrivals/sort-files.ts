/** What was dropped together, and what each file is for. */
export interface SortedFiles {
  /** null where no sound is long enough for one, or where it was not said which one it is */
  readonly song: File | null;
  readonly footage: readonly File[];
  /** captions and lyrics, which belong to a song that is marked */
  readonly words: readonly File[];
}

/** A sound that may be the song, and how long it is, seconds. */
export interface Candidate {
  readonly file: File;
  readonly length: number;
}

/** Says which of several sounds is the song; null for none of them. */
export type AskSong = (candidates: readonly Candidate[]) => Promise<File | null>;

const SOUNDS = /[.](wav|mp3|flac|ogg|oga|opus|m4a|aac|aif|aiff|wma)$/i;
/** Captions and lyrics. */
export const WORDS = /[.](srt|vtt|lrc)$/i;
/** A sound of which the browser does not say how long it is counts by its size, bytes a second. */
const USUAL_RATE = 24_000;
/** So long a browser may take to look at a sound, ms. */
const PATIENCE_MS = 3000;
/** Shorter sounds are effects, seconds. */
const LEAST_SONG_S = 12;
/** A sound that has more than this part of the longest one's length may be the song as well. */
const RIVALS = 0.4;

/** How long a sound is, as far as the browser can tell. @returns seconds, or null */
export function soundLength(file: File): Promise<number | null> {
  return new Promise((resolve) => {
    const address = URL.createObjectURL(file);
    const sound = new Audio();
    const end = (length: number | null): void => {
      clearTimeout(patience);
      URL.revokeObjectURL(address);
      resolve(length !== null && Number.isFinite(length) ? length : null);
    };
    const patience = setTimeout(() => end(null), PATIENCE_MS);
    sound.preload = 'metadata';
    sound.onloadedmetadata = () => end(sound.duration);
    sound.onerror = () => end(null);
    sound.src = address;
  });
}

/**
 * Tells song, footage and words apart: the song is the longest of the sounds, the others are effects on the shelf of sounds. Where
 * another one is about as long, it is asked which it is.
 */
export async function sortFiles(
  files: readonly File[],
  ask: AskSong,
  lengthOf: (file: File) => Promise<number | null> = soundLength,
): Promise<SortedFiles> {
  const isSound = (file: File): boolean => file.type.startsWith('audio/') || SOUNDS.test(file.name);
  const words = files.filter((file) => WORDS.test(file.name));
  const sounds = files.filter((file) => isSound(file) && !words.includes(file));
  const measured = await Promise.all(
    sounds.map(async (file): Promise<Candidate> => ({ file, length: (await lengthOf(file)) ?? file.size / USUAL_RATE })),
  );
  const [longest, ...others] = measured.filter((s) => s.length >= LEAST_SONG_S).sort((a, b) => b.length - a.length);
  const rivals = longest ? others.filter((s) => s.length > RIVALS * longest.length) : [];
  const song = longest === undefined ? null : rivals.length === 0 ? longest.file : await ask([longest, ...rivals]);
  return { song, footage: files.filter((file) => file !== song && !words.includes(file)), words };
}

/** What a project is called that begins with these files: as the folder that they came from, or else as the song. */
export function nameFor(files: readonly (File & { readonly path?: string; readonly relativePath?: string })[], song: File | null): string {
  const folder = (files[0]?.relativePath ?? files[0]?.path ?? '').split('/').filter((part) => part !== '' && part !== '.');
  const name = folder.length > 1 ? folder[0]! : (song ?? files[0])?.name.replace(/[.][^.]+$/, '');
  return (name ?? '').trim().slice(0, 120) || 'New montage';
}
