// Decodes a HEIC photo in a thread of its own: the decoder is WebAssembly, and works for seconds on a large one.
import decode from 'heic-decode';
import { readFile } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';

const { width, height, data } = await decode({ buffer: await readFile((workerData as { path: string }).path) });
const bytes = new Uint8Array(data.buffer);
parentPort!.postMessage({ width, height, bytes }, [bytes.buffer as ArrayBuffer]);
