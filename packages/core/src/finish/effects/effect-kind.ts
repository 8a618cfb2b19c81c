/** A colour over the whole picture. */
export interface Veil {
  /** #rrggbb */
  readonly colour: string;
  /** 0 to 1 */
  readonly opacity: number;
}

/** What an effect of the picture does to one frame; what is left out stays as it is. */
export interface Blow {
  /** a colour over the picture; of several veils of a colour at once the strongest is seen */
  readonly veil?: Veil;
  /** how much the picture is enlarged about its middle, 1 is not at all; several at once multiply */
  readonly zoom?: number;
  /** how far it is moved, parts of its height; several at once add up, as far as no edge comes into sight */
  readonly x?: number;
  readonly y?: number;
}

/** Effects that fire on marks and cuts: a kind is one file here and one line in `all.ts`. */
export interface EffectKindDefinition {
  readonly title: string;
  /** what is seen or heard, in one sentence without a full stop */
  readonly says: string;
  /** the key that lays it at the playhead */
  readonly key: string;
  /** how it is when it is laid down: strength 0 to 1, and beats until it has died away */
  readonly defaults: { readonly strength: number; readonly beats: number };
  /**
   * What it does to the picture; null for a sound.
   * @param left how much of it is left: its strength on the mark, 0 when it has died away
   * @param seconds since it fired
   */
  readonly at: ((left: number, seconds: number) => Blow) | null;
}

/** Defines a kind of effect. */
export function effectKind(definition: EffectKindDefinition): EffectKindDefinition {
  return definition;
}
