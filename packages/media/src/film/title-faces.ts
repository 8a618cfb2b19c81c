import { createRequire } from 'node:module';
import { GlobalFonts } from '@napi-rs/canvas';
import { FACES, ships, USUAL_FACE } from '@bluster/core/finish/faces/faces';
import type { TitleItem } from '@bluster/core/finish/titles';
import { faceFamilies } from '@bluster/painter';

/** Where the files of a montage's own typefaces lie, by the ids of the files. */
export type FaceFiles = Readonly<Record<string, string>>;

const { resolve } = createRequire(import.meta.url);
const loaded = new Set<string>();

/** Has a typeface ready under the names that the painter asks for. One whose file is gone stays away: the plain one stands in. */
function loadFace(face: string, files: FaceFiles): void {
  if (loaded.has(face)) return;
  loaded.add(face);
  const [family, extended] = faceFamilies(face);
  if (!ships(face)) {
    if (files[face] !== undefined) GlobalFonts.registerFromPath(files[face], family);
    return;
  }
  const { package: from, name, ending } = FACES[face].files;
  GlobalFonts.registerFromPath(resolve(`${from}/files/${name}-latin-${ending}`), family);
  GlobalFonts.registerFromPath(resolve(`${from}/files/${name}-latin-ext-${ending}`), extended);
}

/** Has the typefaces ready that titles are written in. */
export function loadTitleFaces(titles: readonly TitleItem[], files: FaceFiles = {}): void {
  for (const face of new Set([USUAL_FACE, ...titles.map((t) => t.face)])) loadFace(face, files);
}
