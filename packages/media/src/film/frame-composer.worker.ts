// Puts the frames of a film together outside the server's event loop.
import { parentPort, workerData } from 'node:worker_threads';
import { threadStandsBack } from '../program/guarded.ts';
import { composeFrame, type DressingFiles } from './compose-frame.ts';
import type { ComposeRequest } from './frame-composer.ts';

threadStandsBack();
const port = parentPort!;
port.on('message', ({ layers, dressing, size }: ComposeRequest) => {
  const frame = composeFrame(layers, dressing, size, workerData as DressingFiles);
  // What is a picture as it came lies in memory that both threads share; all else is given away.
  port.postMessage(frame, frame.buffer instanceof SharedArrayBuffer ? [] : [frame.buffer]);
});
