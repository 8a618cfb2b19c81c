import type { ValidationError } from 'class-validator';

/** What is wrong with a request, in one sentence; null where nothing is. */
export function problemsOf(errors: readonly ValidationError[]): string | null {
  const problems = errors.flatMap((error) => Object.values(error.constraints ?? {}));
  return problems.length > 0 ? `${problems.join('; ')}.` : null;
}
