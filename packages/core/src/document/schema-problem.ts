import type { z } from 'zod';

const KINDS: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'a group of values',
  record: 'a group of values',
};

/** Places such as shots.3.rate as people count: from 1. */
const placeOf = (path: readonly PropertyKey[]): string =>
  path.map((step) => (typeof step === 'number' ? String(step + 1) : String(step))).join(' ') || 'the document';

const quantity = (origin: string, bound: number | bigint): string =>
  origin === 'string' ? `${bound} characters` : origin === 'array' ? `${bound} entries` : String(bound);

/** What is wrong with a document, in words: where, and what should stand there. */
export function schemaProblem(issue: z.core.$ZodIssue | undefined): string {
  if (!issue) return 'the document is not as it should be';
  const place = placeOf(issue.path);
  switch (issue.code) {
    case 'invalid_type':
      return `${place} is not ${KINDS[issue.expected] ?? 'what should stand there'}`;
    case 'too_small':
      return `${place} is below ${quantity(issue.origin, issue.minimum)}, the least that there may be`;
    case 'too_big':
      return `${place} is over ${quantity(issue.origin, issue.maximum)}, the most that there may be`;
    case 'not_multiple_of':
      return `${place} is not a multiple of ${issue.divisor}`;
    case 'invalid_value':
      return `${place} is none of: ${issue.values.map(String).join(', ')}`;
    case 'unrecognized_keys':
      return `${place} holds "${issue.keys[0]?.slice(0, 40)}", which this version does not know`;
    case 'custom':
      return `${place} is ${issue.message}`;
    default:
      return `${place} is not as it should be`;
  }
}
