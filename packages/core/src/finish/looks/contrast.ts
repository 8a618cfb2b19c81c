import { lookKind } from './look-kind.ts';

export const contrast = lookKind({
  title: 'contrast',
  says: 'Light and dark farther apart, or nearer together',
  least: -1,
  usual: 0.3,
  parts: (strength) => ({ contrast: strength < 0 ? 1 + 0.8 * strength : 1 + strength }),
});
