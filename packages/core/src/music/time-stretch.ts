const WINDOW_S = 0.044;
const SEARCH_S = 0.012;
/** Candidates are compared at every so many samples: pitch below 5 kHz decides what fits. */
const STRIDE = 4;
const { max, min, round } = Math;

/**
 * Slower or faster sound at the same pitch, by overlap and add of windows that are shifted to where they go on best from
 * what came before (W. Verhelst and M. Roelands, "An overlap-add technique based on waveform similarity (WSOLA) for high
 * quality time-scale modification of speech", ICASSP 1993).
 * @param channels of one length
 * @param rate Hz
 * @param factor by which it gets longer: 2 is half speed
 * @returns channels of the length times the factor
 */
export function stretchTime(channels: readonly Float32Array[], rate: number, factor: number): Float32Array[] {
  const length = channels[0]?.length ?? 0;
  const total = round(length * factor);
  const hop = max(1, round((WINDOW_S * rate) / 2));
  const size = 2 * hop;
  const search = round(SEARCH_S * rate);
  const window = Float32Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
  const mono = new Float32Array(length);
  for (const channel of channels) for (let i = 0; i < length; i++) mono[i]! += channel[i]!;
  const out = channels.map(() => new Float32Array(total + size));

  // The first half of a window is what the one before it faded out over; it starts at full level.
  let from = 0;
  for (let at = -hop; at < total; at += hop) {
    const ideal = round((at + hop) / factor) - hop;
    if (at > -hop) {
      const expected = from + hop;
      let best = -Infinity;
      let place = ideal;
      for (let shift = -search; shift <= search; shift += STRIDE) {
        const start = ideal + shift;
        let sum = 0;
        let energy = 1e-9;
        for (let i = 0; i < hop; i += STRIDE) {
          const x = mono[start + i] ?? 0;
          sum += x * (mono[expected + i] ?? 0);
          energy += x * x;
        }
        const value = sum / Math.sqrt(energy);
        if (value > best) [best, place] = [value, start];
      }
      from = place;
    } else from = ideal;
    channels.forEach((channel, c) => {
      const target = out[c]!;
      for (let i = max(0, -at); i < min(size, total - at); i++) target[at + i]! += window[i]! * (channel[from + i] ?? 0);
    });
  }
  return out.map((channel) => channel.subarray(0, total));
}
