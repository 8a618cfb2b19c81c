import { useState } from 'react';
import { toast } from 'sonner';
import { WHOLE_CLIP, clipLength, framesPerSecond, stretchesOf, type FootageItem, type Select } from '@bluster/core';
import { useEditor } from '../document/editor.ts';

/** What is done to the selects of a clip that is looked at; times are clip seconds. */
export interface SelectWork {
  /** the one that is worked on */
  readonly select: Select;
  readonly choose: (id: string) => void;
  readonly setEnds: (from: number, out: number) => void;
  readonly setIn: (at: number) => void;
  /** @param at start of the last frame that belongs to it */
  readonly setOut: (at: number) => void;
  readonly begin: (at: number) => void;
  readonly takeAway: () => void;
  /** Sets the hit of the select that the moment lies in, or takes it away if it is there already. */
  readonly setHit: (at: number) => void;
  /** @param how for a sentence: chopped how */
  readonly chop: (how: string, parts: readonly { in: number; out: number; hit?: number }[]) => void;
}

export function useSelectWork(item: FootageItem): SelectWork {
  const stretches = stretchesOf(item);
  const [wanted, choose] = useState(stretches[0]!.id);
  // A select that has gone, or a whole clip that has become one: the first stands in for it.
  const select = stretches.find((s) => s.id === wanted) ?? stretches[0]!;
  const { run } = useEditor.getState();
  const { assetId } = item;
  const length = clipLength(item);
  const frame = 1 / framesPerSecond(item.rate);

  const setEnds = (from: number, out: number): void => {
    run({ do: 'setSelect', assetId, selectId: select.id === WHOLE_CLIP ? null : select.id, in: from, out });
  };
  return {
    select,
    choose,
    setEnds,
    setIn: (at) => setEnds(at, select.out > at ? select.out : length),
    setOut: (at) => setEnds(select.in < at + frame ? select.in : 0, at + frame),
    begin: (at) => {
      const next = item.selects.find((s) => s.in > at + frame);
      if (!run({ do: 'setSelect', assetId, selectId: null, in: at, out: next?.in ?? length })) return;
      const now = useEditor.getState().history.now.footage.find((f) => f.assetId === assetId);
      const fresh = now?.selects.find((s) => !item.selects.some((o) => o.id === s.id));
      if (fresh) choose(fresh.id);
    },
    takeAway: () => run({ do: 'removeSelect', assetId, selectId: select.id }),
    setHit: (at) => {
      const within = stretches.filter((s) => at > s.in - 1e-6 && at < s.out - 1e-6);
      const own = within.find((s) => s.id === select.id) ?? within[0];
      if (!own) {
        toast.error('The hit must lie in a select. Set an in before it, or start a new select with Shift I.');
        return;
      }
      run({ do: 'setHit', assetId, selectId: own.id, hit: own.hit !== null && Math.abs(own.hit - at) < frame / 2 ? null : at });
      choose(own.id);
    },
    chop: (how, parts) => {
      if (parts.length === 0) toast(`${item.name} has nothing to be chopped ${how}.`);
      else if (run({ do: 'addSelects', assetId, stretches: parts, how: 'replace' }))
        toast(`${item.name} is ${parts.length} ${parts.length === 1 ? 'select' : 'selects'} now.`);
    },
  };
}
