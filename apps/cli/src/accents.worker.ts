// Finds the accents of a song beside the thread that counts it.
import { parentPort, workerData } from 'node:worker_threads';
import { findAccents } from '@bluster/core/music/accents';
import type { ToFindAccentsIn } from './accents-beside.ts';

const { onsets, signal } = workerData as ToFindAccentsIn;
parentPort!.postMessage(findAccents(onsets, signal));
