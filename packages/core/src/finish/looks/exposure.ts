import { lookKind } from './look-kind.ts';

export const exposure = lookKind({
  title: 'exposure',
  says: 'Brighter, or darker',
  least: -1,
  usual: 0.4,
  parts: (strength) => ({ exposure: 2 * strength }),
});
