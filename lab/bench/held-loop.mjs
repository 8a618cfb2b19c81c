// Loaded before the server (node --import): writes down, a line a second, how long its event loop was held at most, ms.
import { appendFileSync } from 'node:fs';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { isMainThread } from 'node:worker_threads';

// Threads are started with the same words.
if (isMainThread) {
  const watch = monitorEventLoopDelay({ resolution: 1 });
  watch.enable();
  setInterval(() => {
    appendFileSync(process.env.BLUSTER_HELD ?? '/dev/null', `${watch.max / 1e6}\n`);
    watch.reset();
  }, 1000).unref();
}
