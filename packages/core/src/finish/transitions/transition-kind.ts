import type { Way } from '../motion/ways.ts';

/** How one of the two pictures of a transition is seen; what is left out is as in a plain shot. */
export interface SeenPicture {
  /** how much of it is seen over what lies below, 0 to 1 */
  readonly opacity?: number;
  /** how far it is moved, parts of the screen's width and height */
  readonly x?: number;
  readonly y?: number;
  /** how much it is enlarged about the middle of the screen */
  readonly zoom?: number;
  /** 0 to 1, as in looks */
  readonly blur?: number;
  /** the part of the screen in which alone it is seen; parts of its width and height */
  readonly within?: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
}

/** How pictures go over into each other at a cut: a kind is one file here and one line in `all.ts`. */
export interface TransitionKindDefinition {
  readonly title: string;
  /** whether it can go different ways */
  readonly directed: boolean;
  /**
   * How the picture before the cut is seen, and over it the one after it, both of which run on beyond the cut;
   * null where one simply takes the place of the other.
   * @param part how far the transition has come, more than 0 and less than 1
   * @param way where it goes to
   */
  readonly layers: ((part: number, way: Way) => { readonly before: SeenPicture; readonly after: SeenPicture }) | null;
  /** the colour that covers the picture, all of it at the cut; null for none */
  readonly veil: string | null;
}

/** Defines a kind of transition. */
export function transitionKind(definition: TransitionKindDefinition): TransitionKindDefinition {
  return definition;
}
