import { lookKind } from './look-kind.ts';

export const grey = lookKind({
  title: 'black and white',
  says: 'Colours drain away',
  least: 0,
  usual: 1,
  parts: (strength) => ({ saturation: 1 - strength }),
});
