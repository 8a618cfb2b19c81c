import { lookKind } from './look-kind.ts';

export const blur = lookKind({
  title: 'blur',
  says: 'The picture goes out of focus',
  least: 0,
  usual: 0.5,
  parts: (strength) => ({ blur: strength }),
});
