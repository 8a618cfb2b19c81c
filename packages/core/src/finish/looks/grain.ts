import { lookKind } from './look-kind.ts';

export const grain = lookKind({
  title: 'grain',
  says: 'Grain, as of film',
  least: 0,
  usual: 0.4,
  parts: (strength) => ({ grain: strength }),
});
