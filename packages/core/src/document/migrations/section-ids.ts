import { listIn, recordIn, type Migration } from './migration.ts';

/** What named a section by its start was meant for the one that starts within so many seconds of it. */
const SAME_SECTION_S = 0.05;
/** Stands for a section that was gone already. */
const GONE = 'gone';

export const sectionIds: Migration = {
  from: 4,
  what: 'sections were known by where they start; now they have ids',
  upgrade: (old) => {
    let lastId = typeof old['lastId'] === 'number' ? old['lastId'] : 0;
    const song = recordIn(old['song']);
    const sections = listIn(song['sections']).map((section) => ({ ...recordIn(section), id: `sec${++lastId}` }));
    const idAt = (from: unknown): string => {
      const near = (s: Readonly<Record<string, unknown>>): boolean => Math.abs(Number(s['from']) - Number(from)) < SAME_SECTION_S;
      return sections.find(near)?.id ?? GONE;
    };
    const sectionRules = listIn(old['sectionRules']).map((entry) => {
      const { from, ...rest } = recordIn(entry);
      return { ...rest, section: idAt(from) };
    });
    const effects = listIn(old['effects']).map((entry) => {
      const effect = recordIn(entry);
      const on = recordIn(effect['on']);
      return typeof on['section'] === 'number' ? { ...effect, on: { ...on, section: idAt(on['section']) } } : effect;
    });
    return { ...old, lastId, song: old['song'] ? { ...song, sections } : old['song'], sectionRules, effects };
  },
};
