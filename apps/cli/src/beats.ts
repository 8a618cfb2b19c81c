import { stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { detect, writeBeatText, type Detection, type Signal } from '@bluster/core';
import { probe } from '@bluster/server/media/probe';
import { soundToSignal } from '@bluster/server/media/sound';
import { MediaProgramError } from '@bluster/server/media/run';
import { InputError } from './usage.ts';

const SHORTEST_S = 3;

/** Makes sure that a file is there and can be opened. */
export async function existing(path: string): Promise<string> {
  const found = await stat(path).catch(() => null);
  if (!found) throw new InputError(`There is no file "${path}". Check the name and the folder.`);
  if (!found.isFile()) throw new InputError(`"${path}" is not a file. Give the file itself.`);
  return path;
}

/** Decodes a song for analysis. */
export async function readSong(path: string): Promise<Signal> {
  const name = basename(await existing(path));
  try {
    const signal = await soundToSignal(path);
    if (signal.samples.length / signal.rate < SHORTEST_S)
      throw new InputError(
        `"${name}" is ${(signal.samples.length / signal.rate).toFixed(1)} s long. A song needs at least ${SHORTEST_S} s for a beat to be found.`,
      );
    return signal;
  } catch (error) {
    if (!(error instanceof MediaProgramError)) throw error;
    const media = await probe(path, name); // says in a sentence what is wrong with the file
    throw new InputError(
      media.sound
        ? `"${name}" cannot be decoded: ${error.message}.`
        : `"${name}" has no sound in it. Give a WAV, MP3, FLAC, OGG or M4A file.`,
    );
  }
}

/** What `bluster beats` prints. */
export function printDetection(detection: Detection, as: { bars?: boolean; json?: boolean }): string {
  if (as.json) return `${JSON.stringify(detection, null, 2)}\n`;
  return writeBeatText((as.bars ? detection.beats.filter((b) => b.downbeat) : detection.beats).map((b) => b.time));
}

/** Finds a song's beats. */
export async function findBeats(path: string): Promise<Detection> {
  const detection = detect(await readSong(path));
  if (detection.beats.length === 0) throw new InputError(detection.verdict ?? 'No beat was found in this song.');
  return detection;
}
