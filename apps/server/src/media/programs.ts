import { accessSync, chmodSync, constants } from 'node:fs';
import { createRequire } from 'node:module';
import { delimiter, join } from 'node:path';

const require = createRequire(import.meta.url);

function onPath(name: string): string | null {
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

function shipped(packageName: string): string {
  const { path } = require(packageName) as { path: string };
  try {
    accessSync(path, constants.X_OK);
  } catch {
    chmodSync(path, 0o755); // the package marks it executable in an install script, which may have been held back
  }
  return path;
}

const found = new Map<string, string>();

/** Path of ffmpeg or ffprobe: BLUSTER_FFMPEG or BLUSTER_FFPROBE, else the one on the PATH, else the one that ships. */
export function programPath(name: 'ffmpeg' | 'ffprobe'): string {
  let path = found.get(name);
  if (!path) {
    path = process.env[`BLUSTER_${name.toUpperCase()}`] ?? onPath(name) ?? shipped(`@${name}-installer/${name}`);
    found.set(name, path);
  }
  return path;
}
