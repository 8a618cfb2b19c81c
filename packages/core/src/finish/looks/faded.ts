import { lookKind } from './look-kind.ts';

export const faded = lookKind({
  title: 'faded black',
  says: 'Black is lifted, as in old prints',
  least: 0,
  usual: 0.5,
  parts: (strength) => ({ lift: 0.45 * strength }),
});
