import { FACES, ships, USUAL_FACE } from '@bluster/core';
import { faceFamilies } from '@bluster/painter';
import { ROUTES } from '@bluster/wire/routes';
import { FACE_FILES } from './face-files.ts';

const loading = new Map<string, Promise<void>>();

/** The fonts of the page or of the worker that asks. */
const fontsHere = (): FontFaceSet =>
  (self as unknown as { document?: Document }).document?.fonts ?? (self as unknown as { fonts: FontFaceSet }).fonts;

async function load(face: string): Promise<void> {
  const families = faceFamilies(face);
  const urls = ships(face) ? FACE_FILES[face] : [ROUTES.assetPart(face, 'original')];
  const weight = ships(face) && FACES[face].weights ? '300 900' : '400';
  await Promise.all(
    urls.map(async (url, i) => {
      const font = new FontFace(families[i]!, `url(${url})`, { weight });
      fontsHere().add(await font.load());
    }),
  );
}

/** Has typefaces of titles ready where it is asked, page or worker. Where one fails, the plain one stands in. */
export async function titleFacesLoaded(faces: Iterable<string>): Promise<void> {
  const wanted = new Set<string>([USUAL_FACE, ...faces]);
  await Promise.all(
    [...wanted].map((face) => {
      let one = loading.get(face);
      if (!one) loading.set(face, (one = load(face).catch(() => undefined)));
      return one;
    }),
  );
}
