import { TITLE_FACES } from '@bluster/painter';
import latin from '@fontsource-variable/figtree/files/figtree-latin-wght-normal.woff2?url';
import extended from '@fontsource-variable/figtree/files/figtree-latin-ext-wght-normal.woff2?url';

let loading: Promise<void> | null = null;

/** Has the typeface of titles ready in this worker; it ships with the page. Where it fails, another one stands in. */
export function titleFacesLoaded(): Promise<void> {
  loading ??= Promise.all(
    [latin, extended].map(async (url, i) => {
      const face = new FontFace(TITLE_FACES[i]!, `url(${url})`, { weight: '300 900' });
      (self as unknown as { fonts: FontFaceSet }).fonts.add(await face.load());
    }),
  ).then(
    () => undefined,
    () => undefined,
  );
  return loading;
}
