import { stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { MediaProgramError } from '@bluster/media/program/run';
import { InputError } from './usage.ts';

const SHORTEST_S = 3;

/** Makes sure that a file is there and can be opened. */
export async function existing(path: string): Promise<string> {
  const found = await stat(path).catch(() => null);
  if (!found) throw new InputError(`There is no file "${path}". Check the name and the folder.`);
  if (!found.isFile()) throw new InputError(`"${path}" is not a file. Give the file itself.`);
  return path;
}

/**
 * Decodes a song by whatever way is given.
 * @throws InputError or UnusableMediaError with a sentence when it is no song, damaged, or too short
 */
export async function decodeSong<T extends { readonly seconds: number }>(path: string, decode: () => Promise<T>): Promise<T> {
  const name = basename(await existing(path));
  try {
    const decoded = await decode();
    if (decoded.seconds < SHORTEST_S)
      throw new InputError(
        `"${name}" is ${decoded.seconds.toFixed(1)} s long. A song needs at least ${SHORTEST_S} s for a beat to be found; choose a longer one.`,
      );
    return decoded;
  } catch (error) {
    if (!(error instanceof MediaProgramError)) throw error;
    // Loaded only here: most songs can be decoded. It says in a sentence what is wrong with this one.
    const { probe } = await import('@bluster/media/probe/probe');
    const media = await probe(path, name);
    throw new InputError(
      media.sound
        ? `"${name}" cannot be decoded: ${error.message}.`
        : `"${name}" has no sound in it. Give a WAV, MP3, FLAC, OGG or M4A file.`,
    );
  }
}
