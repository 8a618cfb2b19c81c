/** A sound in columns of so many samples each, not always whole ones, and how far it swings in each, -1 to 1; found where it is first asked for. */
export interface SoundColumns {
  readonly perColumn: number;
  readonly count: number;
  /** the least value of a column, 0 at the most */
  readonly low: (column: number) => number;
  /** the greatest, 0 at the least */
  readonly high: (column: number) => number;
}

/** What is needed of an AudioBuffer. */
export type Channels = Pick<AudioBuffer, 'length' | 'numberOfChannels' | 'getChannelData'>;

const known = new WeakMap<Channels, SoundColumns>();

/** The columns of a sound, of its first two channels together; kept as long as the same are asked for. @param perColumn samples, 1 or more */
export function columnsOf(sound: Channels, perColumn: number): SoundColumns {
  const before = known.get(sound);
  if (before?.perColumn === perColumn) return before;
  const left = sound.getChannelData(0);
  const right = sound.numberOfChannels > 1 ? sound.getChannelData(1) : left;
  const count = Math.ceil(sound.length / perColumn);
  const lows = new Float32Array(count).fill(NaN);
  const highs = new Float32Array(count);
  const find = (column: number): void => {
    let [low, high] = [0, 0];
    const end = Math.min(sound.length, Math.ceil((column + 1) * perColumn));
    for (let i = Math.ceil(column * perColumn); i < end; i++) {
      const value = (left[i]! + right[i]!) / 2;
      if (value < low) low = value;
      if (value > high) high = value;
    }
    lows[column] = low;
    highs[column] = high;
  };
  const from = (values: Float32Array, column: number): number => {
    if (Number.isNaN(lows[column])) find(column);
    return values[column]!;
  };
  const columns = { perColumn, count, low: (n: number) => from(lows, n), high: (n: number) => from(highs, n) };
  known.set(sound, columns);
  return columns;
}
