import { UNDESCRIBED } from '../footage-item.ts';
import { listIn, recordIn, type Migration } from './migration.ts';

export const kindsOfRules: Migration = {
  from: 2,
  what: 'there was one rule for pegs, a count of beats or bars; now there are kinds of them, and sections have their own',
  upgrade: (old) => {
    const rule = old['pegRule'];
    // The first of this version had no framing of their footage yet.
    const footage = listIn(old['footage']).map((item) => ({ ...UNDESCRIBED, ...recordIn(item) }));
    return { ...old, footage, pegRule: typeof rule === 'object' && rule ? { kind: 'pulse', ...rule } : null, sectionRules: [] };
  },
};
