// Reads documents outside the server's event loop, in the order in which they come.
import 'reflect-metadata';
import { parentPort } from 'node:worker_threads';
import { threadStandsBack } from '@bluster/media/program/guarded';
import { readDocument, readingFailure, type Reading, type ReadingAnswer } from './read-document.ts';

/** After the thread that answers everybody, and long before pictures and films. */
const A_LITTLE = 5;

threadStandsBack(A_LITTLE);
const port = parentPort!;
port.on('message', (reading: Reading) => {
  let answer: ReadingAnswer;
  try {
    answer = { kind: 'read', read: readDocument(reading) };
  } catch (error) {
    answer = readingFailure(error);
  }
  port.postMessage(answer);
});
