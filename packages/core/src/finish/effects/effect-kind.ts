import type { LookParts } from '../looks/look-parts.ts';
import type { Way } from '../motion/ways.ts';
import type { Curve } from './curves.ts';

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
  /** what it looks like; several at once come together */
  readonly look?: Partial<LookParts>;
  /** the half of the picture that is also seen in place of the other, turned over */
  readonly mirror?: Way;
}

/** An effect under way. */
export interface Moment {
  /** since it fired */
  readonly seconds: number;
  /** how long a beat takes there, seconds */
  readonly beat: number;
  /** which way it goes, of those that its kind knows */
  readonly way: Way;
  /** it may flash no more than three times a second */
  readonly gentle: boolean;
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
  /** how it dies away where nobody said otherwise */
  readonly curve: Curve;
  /** the ways it may go, the usual one first; none where it has none */
  readonly ways: readonly Way[];
  /**
   * What it does to the picture; null for a sound, and for what only changes which frames are seen.
   * @param left how much of it is left, 0 when it has died away
   */
  readonly at: ((left: number, moment: Moment) => Blow) | null;
  /**
   * Which frame of the shot is seen so many seconds after it fired, as seconds after it fired; null where the shot runs on.
   * It ends with the slot in which it fired.
   */
  readonly shown: ((moment: Moment) => number) | null;
  /** how often it goes bright and dark again in a second, for those who flashes make ill */
  readonly flashes: ((beat: number) => number) | null;
}

/** Defines a kind of effect; what it does not say is as with most of them. */
export function effectKind(
  definition: Pick<EffectKindDefinition, 'title' | 'says' | 'key' | 'defaults' | 'at'> & Partial<EffectKindDefinition>,
): EffectKindDefinition {
  return { curve: 'quick', ways: [], shown: null, flashes: null, ...definition };
}
