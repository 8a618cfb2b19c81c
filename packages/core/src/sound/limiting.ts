/** Samples of a block whose peak is looked at; a hundredth of a second at 44,100 Hz. */
export const LIMIT_BLOCK = 441;
/** Over how many blocks a sound is turned down before a peak, and comes back after it. */
const ATTACK_BLOCKS = 3;
const RELEASE_BLOCKS = 30;

/**
 * How far a sound has to be turned down, so that no sample is beyond full scale: a gain for the border of each block, one
 * more than there are blocks. Between borders it runs straight, so that within a block it is never above what the block needs.
 * @param peaks of each block: its largest sample, 1 is full scale
 * @returns null where nothing has to be turned down
 */
export function limitingGains(peaks: Float32Array, ceiling = 1): Float32Array | null {
  if (peaks.every((peak) => peak <= ceiling)) return null;
  const gains = new Float32Array(peaks.length + 1).fill(1);
  peaks.forEach((peak, block) => {
    if (peak <= ceiling) return;
    for (const border of [block, block + 1]) gains[border] = Math.min(gains[border]!, ceiling / peak);
  });
  for (let i = 1; i < gains.length; i++) gains[i] = Math.min(gains[i]!, gains[i - 1]! + 1 / RELEASE_BLOCKS);
  for (let i = gains.length - 2; i >= 0; i--) gains[i] = Math.min(gains[i]!, gains[i + 1]! + 1 / ATTACK_BLOCKS);
  return gains;
}

/** Turns sound down by its gains, where it stands. @param samples interleaved @param from where they begin, counted in samples of a channel */
export function turnDown(samples: Float32Array, from: number, gains: Float32Array, channels: number): void {
  const count = samples.length / channels;
  for (let n = 0; n < count;) {
    const block = Math.min(gains.length - 2, Math.floor((from + n) / LIMIT_BLOCK));
    const [gain, step] = [gains[block]!, (gains[block + 1]! - gains[block]!) / LIMIT_BLOCK];
    const end = block === gains.length - 2 ? count : Math.min(count, (block + 1) * LIMIT_BLOCK - from);
    for (; n < end; n++) for (let c = 0; c < channels; c++) samples[n * channels + c]! *= gain + step * (from + n - block * LIMIT_BLOCK);
  }
}
