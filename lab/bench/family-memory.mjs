import { readFileSync, readdirSync } from 'node:fs';

/** Bytes of memory of a process, what it shares with others in equal parts (Pss, proc(5)); 0 where it has ended. */
function memoryOf(pid) {
  try {
    return Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8'))?.[1] ?? 0) * 1024;
  } catch {
    return 0;
  }
}

/** Bytes of memory of a process, of all that it started, and of what those started (Linux). */
export function familyMemory(pid) {
  const parents = new Map();
  for (const name of readdirSync('/proc').filter((n) => /^\d+$/.test(n)))
    try {
      parents.set(Number(name), Number(readFileSync(`/proc/${name}/stat`, 'utf8').split(') ')[1].split(' ')[1]));
    } catch {
      // ended in between
    }
  const found = [pid];
  for (const one of found) for (const [child, parent] of parents) if (parent === one) found.push(child);
  return found.reduce((sum, one) => sum + memoryOf(one), 0);
}
