import type { Migration } from './migration.ts';

export const dressing: Migration = {
  from: 5,
  what: 'a letterbox stood from start to end; pictures had no looks and did not move, titles no styles, sound no levels',
  upgrade: ({ letterbox, ...old }) => {
    const lastId = typeof old['lastId'] === 'number' ? old['lastId'] : 0;
    const stands = typeof letterbox === 'number';
    const span = { from: null, to: null, rise: 0, fall: 0 };
    return {
      ...old,
      lastId: stands ? lastId + 1 : lastId,
      styles: [],
      faces: [],
      levels: [],
      ducking: { by: 12, beats: 0.5 },
      looks: [],
      tables: [],
      moveRule: null,
      fades: [],
      letterboxes: stands ? [{ id: `lb${lastId + 1}`, aspect: letterbox, span }] : [],
    };
  },
};
