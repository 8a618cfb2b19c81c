import type { z } from 'zod';

/** What a rule needs to know of a mark. */
export interface RuleMark {
  readonly id: string;
  readonly kind: string;
  /** song seconds */
  readonly time: number;
  readonly band?: string | undefined;
  readonly strength?: number | undefined;
}

/** A place for a peg: on a mark, a part of a beat after one, or (without a mark) at a time of the song. */
export interface PegPlace {
  readonly markId: string | null;
  readonly part?: number;
  /** song seconds */
  readonly time: number;
}

/** What a rule chooses from. */
export interface Ground {
  readonly marks: readonly RuleMark[];
  /** beats and the downbeats of bars, in order */
  readonly beats: readonly RuleMark[];
  /** the stretch that it is for, song seconds */
  readonly from: number;
  readonly to: number;
  /** sections of the song by their starts, song seconds, and how full they are: 0 for the quietest of the song, 1 for the fullest */
  readonly sections: readonly { readonly from: number; readonly energy: number }[];
  /** seconds of a frame of the montage */
  readonly frameLength: number;
  /** song times every so many frames of the montage, without its start and end */
  readonly everyFrames: (frames: number) => readonly number[];
}

/** How pegs are hung: a kind is one file here and one line in `all.ts`. */
export interface RuleKindDefinition<Rule> {
  /** what of it is kept in the document, with its name in `kind` */
  readonly fields: z.ZodType<Rule>;
  /** rules of this kind that are offered ready-made, in order */
  readonly offered: readonly Rule[];
  /** whether it counts beats and bars, so that without marks there is nothing to count */
  readonly counts: boolean;
  /** the first and the last slot are no shorter than this, but for a drop in them, seconds; nothing where any will do */
  readonly edge?: number;
  /** places of the whole song; those outside of the stretch are left out afterwards */
  readonly places: (rule: Rule, ground: Ground) => readonly PegPlace[];
  /** the rule in a few words */
  readonly says: (rule: Rule) => string;
  /** what is wrong where it chooses nothing, and what to do: a sentence, or null where that is as it should be */
  readonly lacks: (rule: Rule) => string | null;
}

/** Defines a kind of rule. */
export function ruleKind<const Kind extends string, Shape extends z.core.$ZodLooseShape>(
  fields: z.ZodObject<Shape & { kind: z.ZodLiteral<Kind> }>,
  definition: Omit<RuleKindDefinition<z.infer<z.ZodObject<Shape & { kind: z.ZodLiteral<Kind> }>>>, 'fields'>,
): typeof definition & { readonly fields: typeof fields } {
  return { fields, ...definition };
}

/** On a mark. */
export const onMark = (mark: RuleMark): PegPlace => ({ markId: mark.id, time: mark.time });
