import { useTurn, type Rank } from './turns.ts';

/** A part of the page that is made when its turn has come. */
export function InTurn({ rank, children }: { rank: Rank; children: React.ReactNode }): React.ReactNode {
  return useTurn(rank) && children;
}
