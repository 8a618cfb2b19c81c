import { guarded } from './guarded.ts';
import { startHere } from './run.ts';
import { PLACE, startElsewhere, type Program } from './starter.ts';

/** By which conditions of their packages this process finds what it imports. */
const CONDITIONS = process.execArgv.filter((word) => word.startsWith('--conditions='));

/**
 * Starts a program of our own, of JavaScript, in a process that stands back and cannot outlive this one. It reads nothing, and starts
 * programs itself.
 * @param file where it is
 * @param memory megabytes of objects that it may take
 */
export function startOwn(file: string, args: readonly string[], { memory }: { readonly memory: number }): Program {
  const [program, words] = guarded(process.execPath, [...CONDITIONS, `--max-old-space-size=${memory}`, file, ...args], { memory: null });
  const { [PLACE]: _, ...env } = process.env;
  return startElsewhere({ program, words, env, folder: process.cwd() }) ?? startHere(program, words, env, false);
}
