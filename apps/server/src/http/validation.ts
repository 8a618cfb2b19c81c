import type { ValidationError } from 'class-validator';

/** What class-validator says of itself, in words; rules with a message of their own say that. */
const WORDS: Readonly<Record<string, string>> = {
  isInt: 'has to be a whole number',
  isObject: 'has to be there, with values in it',
  isString: 'has to be a text',
  whitelistValidation: 'is not known here',
};

/** Those of values within values too. */
const flat = (errors: readonly ValidationError[]): ValidationError[] => errors.flatMap((error) => [error, ...flat(error.children ?? [])]);

/** What is wrong with a request, in one sentence; null where nothing is. */
export function problemsOf(errors: readonly ValidationError[]): string | null {
  const problems = flat(errors).flatMap(({ property, constraints = {} }) =>
    Object.entries(constraints).map(([rule, said]) => {
      const own = !said.startsWith(property) && rule !== 'whitelistValidation';
      return own ? said : `"${property.slice(0, 40)}" ${WORDS[rule] ?? said.slice(property.length + 1)}`;
    }),
  );
  return problems.length > 0 ? `${problems.join('; ')}.` : null;
}
