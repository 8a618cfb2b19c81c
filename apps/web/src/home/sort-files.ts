/** What was dropped together, and what each file is for. */
export interface SortedFiles {
  /** the longest sound without a picture; null where there is none */
  readonly song: File | null;
  readonly footage: readonly File[];
  /** captions and lyrics, which belong to a song that is marked */
  readonly words: readonly File[];
}

const SOUNDS = /[.](wav|mp3|flac|ogg|oga|opus|m4a|aac|aif|aiff|wma)$/i;
const WORDS = /[.](srt|vtt|lrc)$/i;
/** A sound of which the browser does not say how long it is counts by its size, bytes a second. */
const USUAL_RATE = 24_000;
/** So long a browser may take to look at a sound, ms. */
const PATIENCE_MS = 3000;

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

/** Tells song, footage and words apart: the song is the longest of the sounds, the others are effects on the shelf of sounds. */
export async function sortFiles(
  files: readonly File[],
  lengthOf: (file: File) => Promise<number | null> = soundLength,
): Promise<SortedFiles> {
  const isSound = (file: File): boolean => file.type.startsWith('audio/') || SOUNDS.test(file.name);
  const words = files.filter((file) => WORDS.test(file.name));
  const sounds = files.filter((file) => isSound(file) && !WORDS.test(file.name));
  const lengths = await Promise.all(sounds.map(async (file) => (await lengthOf(file)) ?? file.size / USUAL_RATE));
  const longest = lengths.indexOf(Math.max(...lengths));
  const song = sounds[longest] ?? null;
  return { song, footage: files.filter((file) => file !== song && !words.includes(file)), words };
}

/** What a project is called that begins with these files: as the folder that they came from, or else as the song. */
export function nameFor(files: readonly (File & { readonly path?: string; readonly relativePath?: string })[], song: File | null): string {
  const folder = (files[0]?.relativePath ?? files[0]?.path ?? '').split('/').filter((part) => part !== '' && part !== '.');
  const name = folder.length > 1 ? folder[0]! : (song ?? files[0])?.name.replace(/[.][^.]+$/, '');
  return (name ?? '').trim().slice(0, 120) || 'New montage';
}
