import type { ValidationError } from 'class-validator';

/** What class-validator says of itself, in words; rules with a message of their own say that. */
const WORDS: Readonly<Record<string, string>> = {
  isInt: 'has to be a whole number',
  isObject: 'has to be there, with values in it',
  isString: 'has to be a text',
  nestedValidation: 'has to have values in it',
  whitelistValidation: 'is not known here',
};

/** Of these it says something of its own wherever they stand. */
const OURS = ['whitelistValidation', 'nestedValidation'];
/** More than so many problems are nonsense that nobody reads to its end. */
const MOST_SAID = 4;

/** Those of values within values too. */
const flat = (errors: readonly ValidationError[]): ValidationError[] => errors.flatMap((error) => [error, ...flat(error.children ?? [])]);

/** What is wrong with a request, in one sentence; null where nothing is. */
export function problemsOf(errors: readonly ValidationError[]): string | null {
  const problems = new Set(
    flat(errors).flatMap(({ property, constraints = {} }) =>
      Object.entries(constraints).map(([rule, said]) => {
        const own = !said.startsWith(property) && !OURS.includes(rule);
        return own ? said.replace(/\.$/, '') : `"${property.slice(0, 40)}" ${WORDS[rule] ?? said.slice(property.length + 1)}`;
      }),
    ),
  );
  if (problems.size === 0) return null;
  const more = problems.size - MOST_SAID;
  return `${[...problems].slice(0, MOST_SAID).join('; ')}${more > 0 ? `; and ${more} more` : ''}.`;
}
