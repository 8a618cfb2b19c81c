import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { programPath } from '../media/programs.ts';

/** A new empty folder for a test. */
export function scratchFolder(): string {
  return mkdtempSync(join(tmpdir(), 'bluster-test-'));
}

/** Runs ffmpeg to make something for a test. */
export function ffmpeg(...args: string[]): Buffer {
  return execFileSync(programPath('ffmpeg'), ['-v', 'error', '-y', ...args], { maxBuffer: 2 ** 30 });
}

/** A tick every half second, a louder one every two seconds, as a file in any format that ffmpeg writes by its ending. */
export function tickingSong(folder: string, file: string, seconds = 8, ...codec: string[]): string {
  const path = join(folder, file);
  const tick = `0.8*sin(2*PI*(110+30*lt(mod(t,2),0.5))*t)*exp(-18*mod(t,0.5))+0.3*random(0)*exp(-90*mod(t,0.5))`;
  ffmpeg('-f', 'lavfi', '-i', `aevalsrc='${tick}':s=44100:d=${seconds}`, ...codec, path);
  return path;
}

/**
 * A film whose frames carry their number in grey: frame n has its left half at 16 + 2 · (n mod 100) and its right half at
 * 16 + 2 · floor(n / 100). Read back with frameNumber().
 */
export function numberedClip(
  folder: string,
  file: string,
  options: { frames: number; fps: string; size?: string; args?: string[]; sound?: boolean },
): string {
  const path = join(folder, file);
  const { frames, fps, size = '320x180', args = [], sound = false } = options;
  const [w] = size.split('x').map(Number) as [number, number];
  const luma = `if(lt(X,${w / 2}),16+2*mod(N,100),16+2*floor(N/100))`;
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    `color=black:s=${size}:r=${fps},format=yuv420p,geq=lum='${luma}':cb=128:cr=128`,
    ...(sound ? ['-f', 'lavfi', '-i', `sine=frequency=440:sample_rate=44100`, '-c:a', 'aac', '-shortest'] : []),
    '-frames:v',
    String(frames),
    '-c:v',
    'libx264',
    '-preset',
    'ultrafast',
    '-crf',
    '4',
    '-g',
    '50',
    '-pix_fmt',
    'yuv420p',
    ...args,
    path,
  );
  return path;
}

/** The numbers of all frames of a film of numbered clips. */
export function frameNumbers(path: string): number[] {
  // The luma plane as it is: a conversion to grey would stretch its range.
  const raw = ffmpeg('-i', path, '-vf', 'scale=16:10:flags=area,format=yuv420p', '-f', 'rawvideo', '-');
  const numbers: number[] = [];
  const luma = 16 * 10;
  for (let at = 0; at + luma * 1.5 <= raw.length; at += luma * 1.5) {
    const level = (x: number): number => raw[at + 5 * 16 + x]! - 16;
    numbers.push(Math.round(level(4) / 2) + 100 * Math.round(level(11) / 2));
  }
  return numbers;
}

export function textFile(folder: string, file: string, text: string): string {
  const path = join(folder, file);
  writeFileSync(path, text);
  return path;
}
