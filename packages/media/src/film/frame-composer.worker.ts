// Puts the frames of a film together outside the server's event loop.
import { parentPort, workerData } from 'node:worker_threads';
import { threadStandsBack } from '../program/guarded.ts';
import { composeFrame, type DressingFiles } from './compose-frame.ts';
import type { ComposeRequest } from './frame-composer.ts';

threadStandsBack();
const port = parentPort!;
port.on('message', ({ layers, dressing, size, into }: ComposeRequest) => {
  composeFrame(layers, dressing, size, workerData as DressingFiles, into);
  port.postMessage('put');
});
