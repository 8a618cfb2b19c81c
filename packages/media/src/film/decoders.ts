import type { PictureRun } from './picture-runs.ts';

/** Source frames, from one to another with it. */
interface Span {
  readonly first: number;
  readonly last: number;
}

/** What one decoder reads: for one run of a plan, or for several, one after the other. It stays open from cut to cut. */
export interface Decoder extends Span {
  /** the places of its runs in the plan */
  readonly runs: readonly number[];
}

/** Decoders that may wait for their next run at once: each holds some frames and a program's memory. */
const MOST_WAITING = 1;

/** So many frames are rather decoded for nothing than that a program is started, a file opened and a key frame sought. */
const SKIPPED = 48;

/** Runs of which this is the same need the same of the same file. */
const gives = ({ item, raster }: PictureRun): string => JSON.stringify([item.assetId, raster ?? [item.source, item.target]]);

/** The frame of the plan with which a run ends. */
const endOf = ({ first, wants }: PictureRun): number => first + wants.length - 1;

function spanOf({ wants }: PictureRun): Span {
  let [first, last] = [Infinity, 0];
  for (const n of wants.flat()) [first, last] = [Math.min(first, n), Math.max(last, n)];
  return { first, last };
}

/** The places of runs in the plan, each behind the one whose decoder can go on to it. */
function chainsOf(runs: readonly PictureRun[], spans: readonly Span[]): number[][] {
  const chains: number[][] = [];
  const byFile = new Map<string, number[][]>();
  const inTime = runs.map((_, i) => i).sort((a, b) => runs[a]!.first - runs[b]!.first || a - b);
  for (const i of inTime) {
    const run = runs[i]!;
    const alike = byFile.get(gives(run)) ?? [];
    byFile.set(gives(run), alike);
    const goesOn = (chain: readonly number[]): boolean => {
      const before = chain.at(-1)!;
      const ahead = spans[i]!.first - spans[before]!.last;
      return endOf(runs[before]!) < run.first && runs[before]!.order === 'rising' && ahead > 0 && ahead <= SKIPPED;
    };
    const chain = run.item.kind === 'clip' && run.order === 'rising' ? alike.find(goesOn) : undefined;
    if (chain) chain.push(i);
    else {
      const own = [i];
      chains.push(own);
      alike.push(own);
    }
  }
  return chains;
}

/** Before which runs a decoder is closed and another one opened, so that no more than `most` wait at once: those that would wait longest. */
function closedBefore(runs: readonly PictureRun[], chains: readonly (readonly number[])[], most: number): Set<number> {
  const waits = chains
    .flatMap((chain) => chain.slice(1).map((next, k) => ({ from: endOf(runs[chain[k]!]!), to: runs[next]!.first, next })))
    .sort((a, b) => a.from - b.from);
  const closed = new Set<number>();
  let waiting: typeof waits = [];
  for (const wait of waits) {
    waiting = [...waiting.filter(({ to }) => to > wait.from), wait];
    if (waiting.length <= most) continue;
    const longest = waiting.reduce((a, b) => (b.to > a.to ? b : a));
    closed.add(longest.next);
    waiting = waiting.filter((one) => one !== longest);
  }
  return closed;
}

/** The decoders that a plan's runs need. @param most how many of them may wait for their next run at once */
export function decodersOf(runs: readonly PictureRun[], most = MOST_WAITING): Decoder[] {
  const spans = runs.map(spanOf);
  const chains = chainsOf(runs, spans);
  const closed = closedBefore(runs, chains, most);
  const decoders: Decoder[] = [];
  for (const chain of chains) {
    const starts = chain.flatMap((run, k) => (k === 0 || closed.has(run) ? [k] : []));
    for (const [n, from] of starts.entries()) {
      const served = chain.slice(from, starts[n + 1]);
      // Of several, each begins behind the one before.
      decoders.push({ runs: served, first: spans[served[0]!]!.first, last: spans[served.at(-1)!]!.last });
    }
  }
  return decoders;
}
