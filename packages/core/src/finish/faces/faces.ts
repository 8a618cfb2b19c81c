/** A typeface of titles that ships with the application. */
export interface ShippedFace {
  readonly title: string;
  /** the open typeface that it is, as it stands in docs/TYPEFACES.md */
  readonly family: string;
  /** its package, and how its files' names end */
  readonly files: { readonly package: string; readonly name: string; readonly ending: string };
  /** whether it can be light and bold */
  readonly weights: boolean;
}

const still = (name: string, title: string, family: string): ShippedFace => ({
  title,
  family,
  files: { package: `@fontsource/${name}`, name, ending: '400-normal.woff2' },
  weights: false,
});
const weighted = (name: string, title: string, family: string): ShippedFace => ({
  title,
  family,
  files: { package: `@fontsource-variable/${name}`, name, ending: 'wght-normal.woff2' },
  weights: true,
});

/** Every typeface that ships, in the order in which they are offered. */
export const FACES = {
  plain: weighted('figtree', 'plain', 'Figtree'),
  tall: still('bebas-neue', 'tall', 'Bebas Neue'),
  book: weighted('playfair-display', 'book', 'Playfair Display'),
  poster: still('abril-fatface', 'poster', 'Abril Fatface'),
  typed: still('special-elite', 'typed', 'Special Elite'),
  shop: still('bungee', 'shop sign', 'Bungee'),
  hand: weighted('caveat', 'hand', 'Caveat'),
  brush: still('lobster', 'brush', 'Lobster'),
  round: still('righteous', 'round', 'Righteous'),
  screen: still('vt323', 'old screen', 'VT323'),
} as const satisfies Record<string, ShippedFace>;

export type FaceName = keyof typeof FACES;
export const FACE_NAMES = Object.keys(FACES) as [FaceName, ...FaceName[]];

/** The typeface in which titles are written that say nothing of it. */
export const USUAL_FACE: FaceName = 'plain';

/** Whether a typeface ships; the others are files of the montage. */
export const ships = (face: string): face is FaceName => Object.hasOwn(FACES, face);

/** Whether a typeface can be light and bold. */
export const hasWeights = (face: string): boolean => ships(face) && FACES[face].weights;
