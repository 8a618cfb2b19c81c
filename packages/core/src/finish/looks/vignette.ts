import { lookKind } from './look-kind.ts';

export const vignette = lookKind({
  title: 'darker edges',
  says: 'The edges of the picture are darkened',
  least: 0,
  usual: 0.5,
  parts: (strength) => ({ vignette: strength }),
});
