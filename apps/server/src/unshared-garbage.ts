import { setFlagsFromString } from 'node:v8';

// V8 has several threads collect garbage and waits for the last of them. Where programs keep all cores busy one of them waits for a core,
// and the event loop with it: 80 ms at times (`./bluster bench load`). A thread that collects its own alone is done in 20.
for (const shared of ['parallel-scavenge', 'parallel-compaction', 'parallel-pointer-update']) setFlagsFromString(`--no-${shared}`);
