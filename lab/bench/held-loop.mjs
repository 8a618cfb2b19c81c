// Loaded before the server (node --import): writes down, a line a second, how long its event loop was held at most, ms, and how long it
// worked, waited for a core, and waited for all else (a disk, memory) in one turn at most; and for how long the host of a virtual
// machine gave its cores to others.
import { appendFileSync, openSync, readFileSync, readSync } from 'node:fs';
import { isMainThread } from 'node:worker_threads';

const TURN_MS = 1;
const LINE_MS = 1000;

/** What the kernel counts of a thread, ms: how long it ran, and how long it waited for a core (sched-stats.rst of Linux). */
function counting(thread) {
  const file = openSync(`/proc/self/task/${thread}/schedstat`, 'r');
  const bytes = Buffer.alloc(96);
  return () => {
    const [ran, waited] = bytes.toString('latin1', 0, readSync(file, bytes, 0, bytes.length, 0)).split(' ');
    return { ran: Number(ran) / 1e6, waited: Number(waited) / 1e6 };
  };
}

/** For how long cores of a virtual machine were given to others, ms, to 10 ms (proc_stat(5)). */
const stolen = () => 10 * Number(readFileSync('/proc/stat', 'utf8').split('\n')[0].split(/ +/)[8]);

// Threads are started with the same words.
if (isMainThread) {
  const counted = counting(process.pid);
  const none = () => ({ held: 0, worked: 0, waited: 0, stood: 0 });
  let most = none();
  let before = { ...counted(), at: performance.now() };
  let line = { at: before.at, stolen: stolen() };
  setInterval(() => {
    const now = { ...counted(), at: performance.now() };
    const held = now.at - before.at - TURN_MS;
    const worked = now.ran - before.ran;
    const waited = now.waited - before.waited;
    const turn = { held, worked, waited, stood: held - worked - waited };
    for (const part of Object.keys(most)) most[part] = Math.max(most[part], turn[part]);
    before = now;
    if (now.at - line.at < LINE_MS) return;
    const next = { at: now.at, stolen: stolen() };
    appendFileSync(process.env.BLUSTER_HELD ?? '/dev/null', `${JSON.stringify({ ...most, stolen: next.stolen - line.stolen })}\n`);
    most = none();
    line = next;
  }, TURN_MS).unref();
}
