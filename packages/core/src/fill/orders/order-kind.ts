import type { FootageItem } from '../../document/montage.ts';

/** What an order may ask for. */
export interface OrderSettings {
  readonly seed: number;
  /** assets in the order in which they were picked */
  readonly picked?: readonly string[];
}

/** In which order footage comes to the slots: a kind is one file here and one line in `all.ts`. */
export interface OrderKindDefinition {
  readonly title: string;
  /** the footage as it is offered to one slot after another */
  readonly items: (footage: readonly FootageItem[], settings: OrderSettings) => readonly FootageItem[];
  /** why a shot hangs where it does, in a few words */
  readonly why: (settings: OrderSettings) => string;
  /** whether a clip's own selects may follow one another, as a story may want it */
  readonly keepsTogether: boolean;
  /** whether shots are chosen for all slots at once by what suits best, which needs to know of the music and the footage */
  readonly matches: boolean;
}

/** Defines a kind of order. */
export function orderKind(definition: OrderKindDefinition): OrderKindDefinition {
  return definition;
}
