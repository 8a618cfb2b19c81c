import { entranceKind, fading, softly } from './entrance-kind.ts';

export const marks = entranceKind({
  title: 'a word on each mark',
  says: 'Each word comes on the next mark, and all go together',
  by: 'words',
  order: 'on marks',
  beats: 0.25,
  piece: (part, coming) => (coming ? { ...fading(part), scale: 1.15 - 0.15 * softly(part) } : fading(part)),
});
