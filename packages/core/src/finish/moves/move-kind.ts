import type { View } from '../motion/view.ts';

/** How a picture's frame travels over its shot: a kind is one file here and one line in `all.ts`. */
export interface MoveKindDefinition {
  readonly title: string;
  /** what is seen, in one sentence without a full stop */
  readonly says: string;
  /**
   * From where to where the frame goes. Edges need no looking after: views that would show one are moved until they do not.
   * @param at how the picture stood before
   * @param strength how far it goes, 0 to 1
   * @param focus what is to stay in sight, parts of the picture
   */
  readonly views: (
    at: View,
    strength: number,
    focus: { readonly x: number; readonly y: number },
  ) => { readonly from: View; readonly to: View };
}

/** Defines a kind of move. */
export function moveKind(definition: MoveKindDefinition): MoveKindDefinition {
  return definition;
}

/** How much larger a picture is at full strength at the near end of a move. */
const NEAREST = 1.9;

/** A view so much nearer that it has gone that far into a picture. */
export function nearer(at: View, strength: number, towards: { readonly x: number; readonly y: number }): View {
  const zoom = at.zoom * (1 + (NEAREST - 1) * strength);
  return { ...at, ...towards, zoom };
}

/** Two views on either side of where it stood, near enough that there is room to go between them. */
export function across(at: View, strength: number, by: { readonly x: number; readonly y: number }): { from: View; to: View } {
  const zoom = at.zoom * (1 + 0.45 * strength);
  const room = (1 - 1 / (1 + 0.45 * strength)) / 2 + 0.12 * strength;
  const [x, y] = [by.x * room, by.y * room];
  return { from: { ...at, zoom, x: at.x - x, y: at.y - y }, to: { ...at, zoom, x: at.x + x, y: at.y + y } };
}
