import { randomUUID } from 'node:crypto';
import { open, rename, rm } from 'node:fs/promises';

/** How a file is called while it is made; what a server that was killed left behind is known by it. */
export const UNFINISHED = /\.[0-9a-f-]{36}\.part$/;

/**
 * Makes a file under a name of its own and gives it its real one when it is whole and on the disk: whoever finds the real name
 * finds a whole file, though the power was cut or two were at work.
 * @param make writes the file at the path it is given; what it returns comes back, what it throws too, and nothing is left
 */
export async function makeWhole<T>(to: string, make: (unfinished: string) => Promise<T>): Promise<T> {
  const unfinished = `${to}.${randomUUID()}.part`;
  try {
    const made = await make(unfinished);
    const file = await open(unfinished, 'r+');
    try {
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(unfinished, to);
    return made;
  } finally {
    await rm(unfinished, { force: true });
  }
}
