import type { Migration } from './migration.ts';

export const finish: Migration = {
  from: 3,
  what: 'nothing was dressed but the ends of the song',
  upgrade: (old) => ({ ...old, effects: [], titles: [], pictureFades: { in: 0, out: 0 }, letterbox: null }),
};
