import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Refusal } from '@bluster/core/refusal/refusal';

const isKind = (path: string, kind: 'isFile' | 'isDirectory'): Promise<boolean> =>
  stat(path).then(
    (found) => found[kind](),
    () => false,
  );
/** Whether there is a file at a path. */
export const isFile = (path: string): Promise<boolean> => isKind(path, 'isFile');
/** Whether there is a folder at a path. */
export const isFolder = (path: string): Promise<boolean> => isKind(path, 'isDirectory');

/** Files of footage, and those of folders in the order of their names. @throws Refusal where there are none */
export async function footageFiles(places: readonly string[]): Promise<string[]> {
  const files: string[] = [];
  for (const place of places)
    if (await isFile(place)) files.push(place);
    else if (await isFolder(place)) {
      const inside = await readdir(place, { withFileTypes: true });
      const names = inside.filter((e) => e.isFile() && !e.name.startsWith('.')).map((e) => e.name);
      files.push(...names.sort((a, b) => a.localeCompare(b, 'en', { numeric: true })).map((name) => join(place, name)));
    } else throw new Refusal(`There is no file and no folder "${place}". Give clips and photos, or a folder of them, with --footage.`);
  if (files.length === 0) throw new Refusal('There is no footage. Give clips and photos, or a folder of them, with --footage.');
  return files;
}
