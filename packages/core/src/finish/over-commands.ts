import { CommandError } from '../document/command-error.ts';
import { command } from '../document/command.ts';
import type { Montage, Passage, Shot } from '../document/montage.ts';
import { TRANSITIONS } from './transitions/all.ts';

/** What a cutaway may do without. */
type Loose = Pick<Shot, 'opacity' | 'inset' | 'comes' | 'goes'>;
const LOOSE = ['opacity', 'inset', 'comes', 'goes'] as const satisfies readonly (keyof Loose)[];

/** Kinds in which both pictures are seen; the others go through a colour that would cover what lies below as well. */
export const comesOver = (kind: Passage['kind']): boolean => TRANSITIONS[kind].layers !== null;

function cutaway(montage: Montage, id: string): Shot {
  const shot = montage.shots.find((s) => s.id === id);
  if (!shot?.over) throw new CommandError('That is no cutaway. Only what hangs over the line can let through what lies below.');
  return shot;
}

export const overCommands = {
  /** null takes away what may be left out: it covers, fills, and is there at once */
  setCutaways: command<{ ids: readonly string[] } & { readonly [K in keyof Loose]?: Loose[K] | null }>(
    'Change a cutaway',
    (montage, { ids, ...to }) => {
      for (const passage of [to.comes, to.goes])
        if (passage && !comesOver(passage.kind))
          throw new CommandError('A cutaway cannot come through a colour: what lies below would be covered too. Choose another way.');
      const changed = new Set(ids.map((id) => cutaway(montage, id)));
      const shots = montage.shots.map((shot): Shot => {
        if (!changed.has(shot)) return shot;
        const next: Record<string, unknown> = { ...shot };
        for (const key of LOOSE) {
          if (to[key] === null) delete next[key];
          else if (to[key] !== undefined) next[key] = to[key];
        }
        return next as Shot;
      });
      return { ...montage, shots };
    },
  ),
};
