import { lookKind } from './look-kind.ts';

export const warmth = lookKind({
  title: 'warmth',
  says: 'Warmer, as at evening, or colder',
  least: -1,
  usual: 0.4,
  parts: (strength) => ({ warmth: strength }),
});
