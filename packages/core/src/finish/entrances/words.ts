import { entranceKind, fading, softly } from './entrance-kind.ts';

export const words = entranceKind({
  title: 'word by word',
  says: 'Its words come one after the other',
  by: 'words',
  beats: 2,
  piece: (part) => ({ ...fading(part), below: 0.3 * (1 - softly(part)) }),
});
