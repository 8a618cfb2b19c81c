import type { Migration } from './migration.ts';

export const shapeViews: Migration = {
  from: 6,
  what: 'a framing by hand held for every shape',
  upgrade: (old) => old,
};
