import { lookKind } from './look-kind.ts';

export const saturation = lookKind({
  title: 'colour',
  says: 'Colours stronger, or paler',
  least: -1,
  usual: 0.4,
  parts: (strength) => ({ saturation: 1 + strength }),
});
