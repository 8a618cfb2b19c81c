import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { copyFileSync, existsSync, mkdtempSync, renameSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { extname, join } from 'node:path';
import { programPath } from '../program/programs.ts';

/** A new empty folder for a test. */
export function scratchFolder(): string {
  return mkdtempSync(join(tmpdir(), 'bluster-test-'));
}

/** Runs ffmpeg to make something for a test. */
export function ffmpeg(...args: string[]): Buffer {
  return execFileSync(programPath('ffmpeg'), ['-v', 'error', '-y', ...args], { maxBuffer: 2 ** 30 });
}

/** Runs ffmpeg on bytes that it reads as its input "-". */
function ffmpegFrom(input: Buffer, ...args: string[]): void {
  execFileSync(programPath('ffmpeg'), ['-v', 'error', '-y', ...args], { input });
}

/**
 * Makes a file, or copies the one that was made alike in this run of tests: many want the same songs and clips.
 * @param words what it is made by, all but its place
 */
function once(path: string, words: readonly string[], make: () => void): void {
  // There is one where scripts/jest-begin.mjs made it.
  const folder = process.env['BLUSTER_MADE'];
  if (!folder) return make();
  const kept = join(folder, createHash('sha256').update(words.join('\0')).digest('hex') + extname(path));
  if (existsSync(kept)) return copyFileSync(kept, path);
  make();
  const part = join(mkdtempSync(join(folder, 'part-')), 'file');
  copyFileSync(path, part);
  renameSync(part, kept);
}

/** A tick every half second, a louder one every two seconds, as a file in any format that ffmpeg writes by its ending. */
export function tickingSong(folder: string, file: string, seconds = 8, ...codec: string[]): string {
  const path = join(folder, file);
  const tick = `0.8*sin(2*PI*(110+30*lt(mod(t,2),0.5))*t)*exp(-18*mod(t,0.5))+0.3*random(0)*exp(-90*mod(t,0.5))`;
  const words = ['-f', 'lavfi', '-i', `aevalsrc='${tick}':s=44100:d=${seconds}`, ...codec];
  once(path, words, () => ffmpeg(...words, path));
  return path;
}

/**
 * A film whose frames carry their number in grey: frame n has its left half at 16 + 4 · (n mod 50) and its right half at
 * 16 + 4 · floor(n / 50). Read back with frameNumbers(), or by numberOf().
 */
export function numberedClip(
  folder: string,
  file: string,
  options: { frames: number; fps: string; size?: string; args?: string[]; sound?: boolean },
): string {
  const path = join(folder, file);
  const { frames, fps, size = '320x180', args = [], sound = false } = options;
  const small = 16;
  const words = [
    ...['-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-s', `${small}x${small}`, '-r', fps, '-i', '-'],
    ...(sound ? ['-f', 'lavfi', '-i', `sine=frequency=440:sample_rate=44100`, '-c:a', 'aac', '-shortest'] : []),
    ...['-vf', `scale=${size.replace('x', ':')}:flags=neighbor`],
    ...['-frames:v', String(frames), '-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '4', '-g', '50', '-pix_fmt', 'yuv420p'],
    ...args,
  ];
  once(path, words, () => ffmpegFrom(numberedPictures(frames, small), ...words, path));
  return path;
}

/** Such pictures, small: working out every pixel of large ones by an expression takes ffmpeg five times as long. */
function numberedPictures(frames: number, side: number): Buffer {
  const pictures = Buffer.alloc(side * side * 1.5 * frames, 128);
  for (let n = 0; n < frames; n++)
    for (let y = 0; y < side; y++) {
      const at = (n * 1.5 * side + y) * side;
      pictures.fill(16 + 4 * (n % 50), at, at + side / 2);
      pictures.fill(16 + 4 * Math.floor(n / 50), at + side / 2, at + side);
    }
  return pictures;
}

/** The number that the halves of a frame say, by their luma. */
export function numberOf(left: number, right: number): number {
  return Math.round((left - 16) / 4) + 50 * Math.round((right - 16) / 4);
}

/** The numbers of all frames of a film of numbered clips. */
export function frameNumbers(path: string): number[] {
  // The luma plane as it is, from the middle of each half: scaling or a conversion to grey would shift its levels.
  const halves = ['iw/4', 'iw*3/4'].map((x, i) => `[${i}]crop=16:16:${x}-8:ih/2-8[half${i}]`).join(';');
  const raw = ffmpeg('-i', path, '-vf', `format=yuv420p,split[0][1];${halves};[half0][half1]hstack`, '-f', 'rawvideo', '-');
  const [width, height] = [32, 16];
  const numbers: number[] = [];
  for (let at = 0; at + width * height * 1.5 <= raw.length; at += width * height * 1.5) {
    const level = (from: number): number => {
      let sum = 0;
      for (let y = 0; y < height; y++) for (let x = from; x < from + 16; x++) sum += raw[at + y * width + x]!;
      return sum / (16 * height);
    };
    numbers.push(numberOf(level(0), level(16)));
  }
  return numbers;
}

export function textFile(folder: string, file: string, text: string): string {
  const path = join(folder, file);
  writeFileSync(path, text);
  return path;
}
