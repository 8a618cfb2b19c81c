import { BEAT_NETWORK, BEAT_WEIGHTS } from './beat-network.weights.ts';
import { firstFree, instanceOf, type GrowingCode } from './compiled.ts';
import { NETWORK_WASM } from './network.wasm.ts';

/** What the compiled code offers; addresses in bytes. */
interface Exports extends GrowingCode {
  layer(
    x: number,
    width: number,
    y: number,
    weights: number,
    bias: number,
    taps: number,
    dilation: number,
    frames: number,
    add: number,
    clip: number,
  ): void;
}

/** Values a frame holds between layers. */
const CHANNELS = 24;
/** The head's results: the chance of a beat and of a downbeat. */
const RESULTS = 2;

/** The network's chances, one a frame, 0 to 1. */
export interface BeatChances {
  readonly beat: Float32Array;
  readonly downbeat: Float32Array;
}

interface Weights {
  readonly width: number;
  readonly taps: number;
  readonly blocks: number;
  /** layer after layer: weights, then biases */
  readonly values: Float32Array;
}

let read: Weights | null = null;

function weights(): Weights {
  if (read) return read;
  const [width, channels, taps, blocks] = BEAT_NETWORK;
  if (channels !== CHANNELS) throw new RangeError(`The weights are for ${channels} channels, the code for ${CHANNELS}.`);
  read = { width: width!, taps: taps!, blocks: blocks!, values: BEAT_WEIGHTS };
  return read;
}

/**
 * The chance of a beat and of a downbeat at each frame, by a temporal convolutional network (M. Davies and S. Böck,
 * "Temporal convolutional networks for musical audio beat tracking", EUSIPCO 2019). It was trained on pieces that
 * packages/composer composes; see training/.
 * @param pulse what OnsetMeter gathers for it
 * @param width values a frame
 * @throws RangeError where the width is not the one that was trained for
 */
export function beatChances(pulse: Float32Array, width: number): BeatChances {
  const net = weights();
  if (width !== net.width) throw new RangeError(`The beat network hears ${net.width} values a frame, not ${width}.`);
  const code = instanceOf<Exports>(NETWORK_WASM);

  const frames = Math.floor(pulse.length / width);
  const even = frames + (frames % 2);
  // Layers reach beyond the ends, where there is silence.
  const margin = (net.taps >> 1) * 2 ** (net.blocks - 1);
  let next = firstFree(code);
  const room = (values: number): number => {
    const here = next;
    next += 16 * Math.ceil(values / 4);
    return here;
  };
  const hidden = room(CHANNELS * (even + 2 * margin)) + 4 * CHANNELS * margin;
  const inner = room(CHANNELS * even);
  const heard = room(width * even);
  const table = room(net.values.length);
  if (code.reach(next) === 0) throw new RangeError('This song is too long for the memory that is there.');
  const floats = new Float32Array(code.memory.buffer);
  floats.set(pulse.subarray(0, frames * width), heard / 4);
  floats.set(net.values, table / 4);

  let at = table;
  const layer = (x: number, inputs: number, y: number, taps: number, dilation: number, add: boolean, clip: boolean): void => {
    const bias = at + 4 * taps * inputs * CHANNELS;
    code.layer(x, inputs, y, at, bias, taps, dilation, even, Number(add), Number(clip));
    at = bias + 4 * CHANNELS;
  };
  layer(heard, width, hidden, 1, 1, false, true);
  // The frame that makes the number even is none.
  if (even > frames) floats.fill(0, hidden / 4 + CHANNELS * frames, hidden / 4 + CHANNELS * even);
  for (let block = 0; block < net.blocks; block++) {
    layer(hidden, CHANNELS, inner, net.taps, 2 ** block, false, true);
    layer(inner, CHANNELS, hidden, 1, 1, true, block === net.blocks - 1);
    if (even > frames) floats.fill(0, hidden / 4 + CHANNELS * frames, hidden / 4 + CHANNELS * even);
  }
  layer(hidden, CHANNELS, inner, 1, 1, false, false);
  const chance = (which: number): Float32Array => {
    const values = new Float32Array(frames);
    for (let i = 0; i < frames; i++) values[i] = 1 / (1 + Math.exp(-floats[inner / 4 + i * CHANNELS + which]!));
    return values;
  };
  return { beat: chance(0), downbeat: chance(RESULTS - 1) };
}
