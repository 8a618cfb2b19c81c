/** How pictures go over into each other at a cut: a kind is one file here and one line in `all.ts`. */
export interface TransitionKindDefinition {
  readonly title: string;
  /**
   * How much is seen of the picture before the cut, and over it of the one after it, both of which run on beyond the cut;
   * null where one simply takes the place of the other.
   * @param part how far the transition has come, more than 0 and less than 1
   */
  readonly layers: ((part: number) => { readonly before: number; readonly after: number }) | null;
  /** the colour that covers the picture, all of it at the cut; null for none */
  readonly veil: string | null;
}

/** Defines a kind of transition. */
export function transitionKind(definition: TransitionKindDefinition): TransitionKindDefinition {
  return definition;
}
