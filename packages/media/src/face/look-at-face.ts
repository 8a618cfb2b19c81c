import { execFile } from 'node:child_process';
import { open } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { UnusableMediaError } from '../probe/probe.ts';
import { GUARDED_ENV, guarded } from '../program/guarded.ts';

/** Bytes: more than any typeface of Latin letters has. */
export const LARGEST_FACE = 30 * 2 ** 20;

/** How files of typefaces begin: TrueType, OpenType and both kinds of WOFF. */
const SIGNATURES = ['\u0000\u0001\u0000\u0000', 'true', 'OTTO', 'wOFF', 'wOF2'];

/** Whether a file begins as a typeface does. */
export async function isFace(path: string): Promise<boolean> {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(4), 0, 4, 0);
    return bytesRead === 4 && SIGNATURES.includes(buffer.toString('latin1'));
  } finally {
    await file.close();
  }
}

// Tests run from the sources, but a program has to be JavaScript: theirs is the one that was built.
const PROGRAM = fileURLToPath(
  new URL(import.meta.url.endsWith('.ts') ? '../../dist/face/look-at-face.program.js' : './look-at-face.program.js', import.meta.url),
);
const TIME_LIMIT_MS = 20_000;

/**
 * Writes with a typeface in a program of its own: files of typefaces are read by much code, and one that is made to
 * break it breaks that program, and is not taken.
 * @returns the name that it gives itself; empty where it has none
 * @throws UnusableMediaError with the reason and the way out
 */
export function lookAtFace(path: string, name: string): Promise<string> {
  // What it reserves is more than it takes: an address space cannot be set, its memory can.
  const [program, words] = guarded(process.execPath, ['--max-old-space-size=256', PROGRAM, path], { memory: null });
  return new Promise((resolve, reject) => {
    execFile(program, words, { timeout: TIME_LIMIT_MS, killSignal: 'SIGKILL', env: { ...process.env, ...GUARDED_ENV } }, (error, said) => {
      const answer = error ? null : (JSON.parse(said) as { family: string; letters: number });
      if (!answer)
        reject(
          new UnusableMediaError(
            `"${name}" cannot be read as a typeface. Bring in a TTF, OTF, WOFF or WOFF2 file that other programs can open.`,
          ),
        );
      else if (answer.letters === 0)
        reject(new UnusableMediaError(`"${name}" has no Latin letters, so no title could be written in it. Choose another typeface.`));
      else resolve(answer.family);
    });
  });
}
