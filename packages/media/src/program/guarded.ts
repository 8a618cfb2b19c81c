import { platform, setPriority } from 'node:os';
import { onPath } from './programs.ts';

/** Bytes of memory that a media program may ask for, where nothing else is said. */
export const USUAL_MEMORY = 4 * 2 ** 30;

/** What a media program may take. */
export interface Bounds {
  /** bytes of address space; null for as much as it needs */
  readonly memory?: number | null | undefined;
  /** bytes of a file that it writes */
  readonly writes?: number | undefined;
}

/**
 * Program and arguments by which a media program is started so that it cannot outlive the one that started it, and cannot take
 * more than it is given. By setpriv and prlimit of util-linux, prctl(2) and setrlimit(2); where
 * they are not on this computer it is started as it is, and what a server left behind is found when the next one starts.
 */
export function guarded(
  program: string,
  args: readonly string[],
  { memory = USUAL_MEMORY, writes }: Bounds = {},
): [string, readonly string[]] {
  const [setpriv, prlimit] = [onPath('setpriv'), onPath('prlimit')];
  const limits = [...(memory === null ? [] : [`--as=${memory}`]), ...(writes === undefined ? [] : [`--fsize=${Math.round(writes)}`])];
  const limited = prlimit && limits.length > 0 ? [prlimit, ...limits, program, ...args] : [program, ...args];
  const [first, ...rest] = setpriv ? [setpriv, '--pdeathsig', 'KILL', ...limited] : limited;
  return [first!, rest];
}

/** glibc reserves address space for every thread; of a limited space that would leave too little. */
export const GUARDED_ENV = { MALLOC_ARENA_MAX: '2' } as const;

/** How far media programs and the threads that feed them stand back (nice(2)): what somebody waits for at a screen comes first. */
const STAND_BACK = 15;

/** Has a program that was started stand back. */
export function standBack(pid: number | undefined): void {
  if (pid === undefined) return;
  try {
    setPriority(pid, STAND_BACK);
  } catch {
    // it has ended already, or this system does not let it: then it is as important as all else
  }
}

/** Has the thread that calls stand back, and what it starts. Elsewhere than on Linux that would be the whole process. @param by nice(2) */
export function threadStandsBack(by = STAND_BACK): void {
  if (platform() === 'linux') setPriority(0, by);
}
