// Puts the frames of a film together outside the server's event loop.
import { parentPort, workerData } from 'node:worker_threads';
import { threadStandsBack } from '../program/guarded.ts';
import { composeFrame, type Cubes } from './compose-frame.ts';
import type { ComposeRequest } from './frame-composer.ts';

threadStandsBack();
const port = parentPort!;
port.on('message', ({ layers, dressing, size }: ComposeRequest) => {
  const frame = Uint8Array.from(composeFrame(layers, dressing, size, workerData as Cubes));
  port.postMessage(frame, [frame.buffer]);
});
