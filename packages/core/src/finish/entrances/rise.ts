import { entranceKind, fading, softly } from './entrance-kind.ts';

export const rise = entranceKind({
  title: 'rising',
  says: 'It comes up from below and fades out',
  piece: (part, coming) => ({ ...fading(part), below: coming ? 0.6 * (1 - softly(part)) : 0 }),
});
