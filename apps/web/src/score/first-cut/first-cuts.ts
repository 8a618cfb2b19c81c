import { create } from 'zustand';
import type { FirstCut, FirstCutWish, Montage } from '@bluster/core';
import type { AssetAnswer as Asset } from '@bluster/wire';
import { montageNow, useEditor } from '../../document/editor.ts';
import { sayProblem } from '../../interface/say-problem.ts';
import { firstCutOf } from '../planning/planning.ts';

/** Of the cuts that were rolled so many are kept, to be compared. */
const KEPT = 2;

/** A cut that was rolled, and what was wished of it. */
export interface RolledCut extends FirstCut {
  readonly number: number;
  readonly wish: FirstCutWish;
}

interface FirstCuts {
  readonly projectId: string | null;
  readonly wish: FirstCutWish;
  readonly cuts: readonly RolledCut[];
  readonly working: boolean;
}

export const FIRST_WISH: FirstCutWish = { lively: 0.5, free: 0.4, seed: 1, order: 'match' };

/** The first cuts of the project that is open; kept while the page is. */
export const useFirstCuts = create<FirstCuts>(() => ({ projectId: null, wish: FIRST_WISH, cuts: [], working: false }));

/** The cut that is the montage now, where none of it was changed since. */
export const shownCut = (cuts: readonly RolledCut[], montage: Montage): RolledCut | undefined => cuts.find((c) => c.montage === montage);

const take = (montage: Montage): boolean => useEditor.getState().runAll('First cut', () => montage);

/** Makes a cut, or another one beside the last; what is locked stays. @returns whether one was made */
export async function rollCut(
  projectId: string,
  assets: ReadonlyMap<string, Asset>,
  to: Partial<FirstCutWish>,
  how: 'beside' | 'in its place',
): Promise<boolean> {
  const before = useFirstCuts.getState();
  const cuts = before.projectId === projectId ? before.cuts : [];
  const wish = { ...(before.projectId === projectId ? before.wish : FIRST_WISH), ...to };
  useFirstCuts.setState({ projectId, wish, cuts, working: true });
  try {
    const now = montageNow();
    const made = await firstCutOf(now, wish, assets);
    if (montageNow() !== now || !take(made.montage)) return false;
    const shown = shownCut(cuts, now);
    const replaced = how === 'in its place' ? shown : undefined;
    const number = replaced?.number ?? 1 + Math.max(0, ...cuts.map((c) => c.number));
    const rolled: RolledCut = { ...made, montage: montageNow(), number, wish };
    // The one that was on the screen stays to be compared with.
    const others = cuts.filter((c) => c !== replaced);
    const kept = shown && shown !== replaced ? [shown] : others.slice(-1);
    useFirstCuts.setState({ cuts: [...kept, rolled].slice(-KEPT).sort((a, b) => a.number - b.number) });
    return true;
  } catch (problem) {
    sayProblem(problem, 'The cut could not be made');
    return false;
  } finally {
    useFirstCuts.setState({ working: false });
  }
}

/** Takes one of the cuts that are kept. */
export function takeCut({ montage, wish }: RolledCut): void {
  if (take(montage)) useFirstCuts.setState({ wish });
}
