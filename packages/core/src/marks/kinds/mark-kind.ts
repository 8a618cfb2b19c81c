/** Marks of a song: a kind is one file here and one line in `all.ts`. */
export interface MarkKindDefinition {
  readonly title: string;
  /** what a tap of it does, for the list of keys */
  readonly tap: string;
  /** the key that taps it */
  readonly key: string;
  /** how much it asks for a picture to happen on it, 0 to 1. @param strength of an accent, 0 to 1 */
  readonly weight: (strength: number | undefined) => number;
  /** of two taps that were meant for one, the kind of the higher rank stays */
  readonly rank: number;
  /** whether it counts time, as beats and the downbeats of bars do */
  readonly counts: boolean;
  /** which cuts are drawn to it: those that are to lie on bars, those on beats too, or only those that may lie on any mark */
  readonly drawn: 'bars' | 'beats' | 'any';
  /** whether it has a word */
  readonly worded: boolean;
  /** whether it lies in a band of the sound and has a strength, by which it may be thinned away */
  readonly banded: boolean;
}

/** Defines a kind of mark. */
export function markKind(definition: MarkKindDefinition): MarkKindDefinition {
  return definition;
}
