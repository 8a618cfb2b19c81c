import { readFileSync, readdirSync } from 'node:fs';

/** Programs that are started are given it, so that those which outlived their server are known by it. */
const MARK = 'BLUSTER_WORKS_IN';

/** From now on every program that is started carries the mark of this data folder. */
export function markPrograms(folder: string): void {
  process.env[MARK] = folder;
}

/**
 * Ends the media programs that a server before this one left at work in a data folder; the folder must be held. Looks through
 * /proc, so it finds some on Linux alone.
 * @returns how many
 */
export function endLeftovers(folder: string): number {
  let ended = 0;
  for (const pid of processes()) {
    if (pid === process.pid || !belongs(pid, folder)) continue;
    try {
      process.kill(pid, 'SIGKILL');
      ended++;
    } catch {
      // It has ended by itself.
    }
  }
  return ended;
}

function processes(): number[] {
  try {
    return readdirSync('/proc').map(Number).filter(Number.isInteger);
  } catch {
    return [];
  }
}

function belongs(pid: number, folder: string): boolean {
  try {
    const program = readFileSync(`/proc/${pid}/comm`, 'utf8').trim();
    // Ours are told by their files: what node is called differs.
    if (!/^(ffmpeg|ffprobe)/.test(program) && !/\.process\.js\0/.test(readFileSync(`/proc/${pid}/cmdline`, 'utf8'))) return false;
    // What this process has started already may have the mark from where this process has it.
    if (Number(/^PPid:\s+(\d+)$/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) === process.pid) return false;
    return readFileSync(`/proc/${pid}/environ`, 'utf8').split('\0').includes(`${MARK}=${folder}`);
  } catch {
    return false;
  }
}
