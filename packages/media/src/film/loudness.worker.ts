// Measures how loud a montage is outside the server's event loop.
import { parentPort, workerData } from 'node:worker_threads';
import { frameTime, mixPlan, readMontage, scoreOf } from '@bluster/core';
import { threadStandsBack } from '../program/guarded.ts';
import type { LoudnessOrder, MeasuredLoudness } from './loudness-thread.ts';
import { measureMix } from './mix.ts';

threadStandsBack();
const { montage: text, sounds } = workerData as LoudnessOrder;
const montage = readMontage(JSON.parse(text));
const { loudness, gains } = await measureMix({
  plan: mixPlan(montage),
  seconds: frameTime(scoreOf(montage).frames, montage.shape.rate),
  soundPath: (id) => sounds[id]!,
});
const lowest = gains ? gains.reduce((least, gain) => Math.min(least, gain), 1) : 1;
parentPort!.postMessage({ loudness, turnedDown: -20 * Math.log10(lowest) } satisfies MeasuredLoudness);
