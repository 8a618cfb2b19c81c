import { isRefusal, readCube, tableText } from '@bluster/core';
import { toast } from 'sonner';
import { montageNow, useEditor } from '../document/editor.ts';

/** A .cube file is text of a few megabytes at the most. */
const LARGEST_BYTES = 8_000_000;

/** Reads a .cube file into the montage. @returns the id of its table, or null where it cannot be read, which is said */
export async function readCubeFile(file: File): Promise<string | null> {
  try {
    if (file.size > LARGEST_BYTES) {
      toast.error(`${file.name} is larger than 8 MB; a table of colours is not. Choose another file.`);
      return null;
    }
    const { title, cube } = readCube(await file.text());
    const colours = tableText(cube);
    useEditor.getState().run({ do: 'addTable', name: title ?? file.name.replace(/\.cube$/i, ''), colours });
    return montageNow().tables.find((t) => t.colours === colours)?.id ?? null;
  } catch (problem) {
    if (!isRefusal(problem)) throw problem;
    toast.error(`${file.name} cannot be read. ${problem.message}`);
    return null;
  }
}
