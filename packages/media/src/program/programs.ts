import { accessSync, constants } from 'node:fs';
import { delimiter, join } from 'node:path';
import { MediaProgramError } from './media-program-error.ts';

const onPaths = new Map<string, string | null>();

/** Path of a program of this computer, or null where there is none. */
export function onPath(name: string): string | null {
  let path = onPaths.get(name);
  if (path === undefined) onPaths.set(name, (path = lookOnPath(name)));
  return path;
}

function lookOnPath(name: string): string | null {
  for (const folder of (process.env['PATH'] ?? '').split(delimiter)) {
    const candidate = join(folder, name);
    try {
      accessSync(candidate, constants.X_OK);
      return candidate;
    } catch {
      // not here; look in the next folder
    }
  }
  return null;
}

const found = new Map<string, string>();

/**
 * Path of ffmpeg or ffprobe: BLUSTER_FFMPEG or BLUSTER_FFPROBE, else the one on the PATH, where the launcher puts one.
 * @throws MediaProgramError where there is none
 */
export function programPath(name: 'ffmpeg' | 'ffprobe'): string {
  let path = found.get(name);
  if (!path) {
    const there = process.env[`BLUSTER_${name.toUpperCase()}`] ?? onPath(name);
    if (!there) throw new MediaProgramError(`there is no ${name} on this computer; ./bluster start brings it`);
    found.set(name, (path = there));
  }
  return path;
}
