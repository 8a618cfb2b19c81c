import type { LookParts } from './look-parts.ts';

/** What a picture can be made to look like: a kind is one file here and one line in `all.ts`. */
export interface LookKindDefinition {
  readonly title: string;
  /** what is seen, in one sentence without a full stop */
  readonly says: string;
  /** the least strength: -1 where it goes either way, else 0 */
  readonly least: -1 | 0;
  /** how strong it is when it is laid */
  readonly usual: number;
  /** @param strength from `least` to 1 @param table of a look by a table of colours: its id */
  readonly parts: (strength: number, table: string | null) => Partial<LookParts>;
}

/** Defines a kind of look. */
export function lookKind(definition: LookKindDefinition): LookKindDefinition {
  return definition;
}
