import type { z } from 'zod';
import { accents } from './accents.ts';
import { cues } from './cues.ts';
import { drops } from './drops.ts';
import { even } from './even.ts';
import { faster } from './faster.ts';
import { none } from './none.ts';
import { pace } from './pace.ts';
import { pattern } from './pattern.ts';
import { pulse } from './pulse.ts';
import type { RuleKindDefinition } from './rule-kind.ts';

/** Every kind of rule, in the order in which they are offered. */
export const RULES = { pulse, pace, drops, cues, faster, pattern, accents, even, none };

export type RuleKind = keyof typeof RULES;
/** Where pegs are hung. */
export type Rule = { [K in RuleKind]: z.infer<(typeof RULES)[K]['fields']> }[RuleKind];

type Fields = (typeof RULES)[RuleKind]['fields'];
export const RULE_FIELDS = Object.values(RULES).map((kind) => kind.fields) as unknown as [Fields, ...Fields[]];

/** A rule of any kind, for what holds for all of them. */
interface AnyRule {
  readonly kind: RuleKind;
}

/** The kind that a rule is of. */
export function ruleKindOf(rule: AnyRule): RuleKindDefinition<AnyRule> {
  return RULES[rule.kind] as unknown as RuleKindDefinition<AnyRule>;
}

/** Rules that are offered ready-made, in order. */
export const OFFERED_RULES: readonly Rule[] = Object.values(RULES).flatMap((kind): readonly Rule[] => kind.offered);
