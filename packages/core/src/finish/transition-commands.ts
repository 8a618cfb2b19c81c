import { command } from '../document/command.ts';
import type { Transition } from '../document/montage.ts';
import { pegNamed } from '../pegs/rehang.ts';

export const transitionCommands = {
  /** null is a plain cut */
  setTransition: command<{ pegIds: readonly string[]; transition: Transition | null }>(
    'Change a transition',
    (montage, { pegIds, transition }) => {
      for (const id of pegIds) pegNamed(montage, id);
      const chosen = new Set(pegIds);
      return {
        ...montage,
        pegs: montage.pegs.map(({ transition: old, ...peg }) => {
          if (!chosen.has(peg.id)) return old ? { ...peg, transition: old } : peg;
          return transition ? { ...peg, transition } : peg;
        }),
      };
    },
  ),
};
