import { open, writeFile } from 'node:fs/promises';
import { makeWhole } from '../program/whole-file.ts';

/*
 * Small pictures in one file, so that any of them is read without decoding the rest: their number, then where each
 * starts and the last one ends (bytes from the start of the file; all unsigned, 32 bits, little-endian), then the pictures.
 */
const WORD = 4;

/** Writes pictures as a pack. The file is there as a whole or not at all. */
export async function writePack(path: string, pictures: readonly Buffer[]): Promise<void> {
  const head = Buffer.alloc(WORD * (pictures.length + 2));
  head.writeUInt32LE(pictures.length, 0);
  let at = head.length;
  head.writeUInt32LE(at, WORD);
  for (const [n, picture] of pictures.entries()) head.writeUInt32LE((at += picture.length), WORD * (n + 2));
  await makeWhole(path, (to) => writeFile(to, [head, ...pictures]));
}

/** One picture of a pack, or null where it has none of that number. Throws where there is no such file. */
export async function readPacked(path: string, n: number): Promise<Buffer | null> {
  const file = await open(path, 'r');
  try {
    const words = Buffer.alloc(WORD * 2);
    await file.read(words, 0, WORD, 0);
    if (n < 0 || n >= words.readUInt32LE(0)) return null;
    await file.read(words, 0, WORD * 2, WORD * (n + 1));
    const [from, to] = [words.readUInt32LE(0), words.readUInt32LE(WORD)];
    const picture = Buffer.alloc(to - from);
    await file.read(picture, 0, picture.length, from);
    return picture;
  } finally {
    await file.close();
  }
}
