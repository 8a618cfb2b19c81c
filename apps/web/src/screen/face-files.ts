import type { FaceName } from '@bluster/core';
import plain from '@fontsource-variable/figtree/files/figtree-latin-wght-normal.woff2?url';
import plainMore from '@fontsource-variable/figtree/files/figtree-latin-ext-wght-normal.woff2?url';
import tall from '@fontsource/bebas-neue/files/bebas-neue-latin-400-normal.woff2?url';
import tallMore from '@fontsource/bebas-neue/files/bebas-neue-latin-ext-400-normal.woff2?url';
import book from '@fontsource-variable/playfair-display/files/playfair-display-latin-wght-normal.woff2?url';
import bookMore from '@fontsource-variable/playfair-display/files/playfair-display-latin-ext-wght-normal.woff2?url';
import poster from '@fontsource/abril-fatface/files/abril-fatface-latin-400-normal.woff2?url';
import posterMore from '@fontsource/abril-fatface/files/abril-fatface-latin-ext-400-normal.woff2?url';
import typed from '@fontsource/special-elite/files/special-elite-latin-400-normal.woff2?url';
import typedMore from '@fontsource/special-elite/files/special-elite-latin-ext-400-normal.woff2?url';
import shop from '@fontsource/bungee/files/bungee-latin-400-normal.woff2?url';
import shopMore from '@fontsource/bungee/files/bungee-latin-ext-400-normal.woff2?url';
import hand from '@fontsource-variable/caveat/files/caveat-latin-wght-normal.woff2?url';
import handMore from '@fontsource-variable/caveat/files/caveat-latin-ext-wght-normal.woff2?url';
import brush from '@fontsource/lobster/files/lobster-latin-400-normal.woff2?url';
import brushMore from '@fontsource/lobster/files/lobster-latin-ext-400-normal.woff2?url';
import round from '@fontsource/righteous/files/righteous-latin-400-normal.woff2?url';
import roundMore from '@fontsource/righteous/files/righteous-latin-ext-400-normal.woff2?url';
import screen from '@fontsource/vt323/files/vt323-latin-400-normal.woff2?url';
import screenMore from '@fontsource/vt323/files/vt323-latin-ext-400-normal.woff2?url';

/** Where the page has the files of the typefaces that ship: what most letters need, and the rest. */
export const FACE_FILES: Readonly<Record<FaceName, readonly string[]>> = {
  plain: [plain, plainMore],
  tall: [tall, tallMore],
  book: [book, bookMore],
  poster: [poster, posterMore],
  typed: [typed, typedMore],
  shop: [shop, shopMore],
  hand: [hand, handMore],
  brush: [brush, brushMore],
  round: [round, roundMore],
  screen: [screen, screenMore],
};
