// The inner loop of beat tracking. AssemblyScript, compiled to WebAssembly by scripts/build-kernel.mjs;
// src/music/beat-tracking.ts lays out the memory and calls it. All addresses are bytes.

/** Where free memory starts. */
export function freeFrom(): usize {
  return __heap_base;
}

/** Makes sure that memory reaches to an address; tells whether there was enough. */
export function reach(address: usize): bool {
  const pages = <i32>((address + 0xffff) >> 16) - memory.size();
  return pages <= 0 || memory.grow(pages) >= 0;
}

/** What every state gains, kept apart so that only the beat places are written. */
let shared: f64 = 0;

/**
 * The most likely ways to each state of a bar-pointer model, from one frame to another. Asked for in short runs, since
 * compilers make better code between calls of a function, not during one.
 * @param first frame, 0 to begin with, and `last`, which is not reached
 * @param offBeat what each frame without a beat is worth, and `gain` what one with a beat is worth beyond that (f64 each)
 * @param count of beat lengths
 * @param starts where each length's ring of places begins in `score`, one more for the end (i32)
 * @param turned where each ring's beat begins now (i32); afterwards, where it would begin next
 * @param score one for each place of each length (f64)
 * @param cost along the lengths, and `preference` against each (f64)
 * @param scratch room for twice `count` f64
 * @param cameFrom which length each beat's length came from, frame after frame (u8)
 * @param beatFrames how many frames a beat is heard in
 */
export function track(
  first: i32,
  last: i32,
  offBeat: usize,
  gain: usize,
  count: i32,
  starts: usize,
  turned: usize,
  score: usize,
  cost: usize,
  preference: usize,
  scratch: usize,
  cameFrom: usize,
  beatFrames: i32,
): void {
  const ended = scratch;
  const best = scratch + ((<usize>count) << 3);
  const places = load<i32>(starts + ((<usize>count) << 2));
  if (first === 0) shared = 0;
  let row = cameFrom + <usize>first * <usize>count;
  for (let n = first; n < last; n++) {
    const g = load<f64>(gain + ((<usize>n) << 3));
    shared += load<f64>(offBeat + ((<usize>n) << 3));
    let top = -Infinity;
    let from: i32 = 0;
    for (let k: i32 = 0; k < count; k++) {
      const eight = (<usize>k) << 3;
      const value = load<f64>(score + ((<usize>load<i32>(turned + ((<usize>k) << 2))) << 3));
      const c = load<f64>(cost + eight);
      store<f64>(ended + eight, value);
      if (value + c > top) {
        top = value + c;
        from = k;
      }
      store<f64>(best + eight, top - c);
      store<u8>(row + k, <u8>from);
    }
    top = -Infinity;
    for (let k: i32 = count - 1; k >= 0; k--) {
      const eight = (<usize>k) << 3;
      const c = load<f64>(cost + eight);
      const value = load<f64>(ended + eight) - c;
      if (value > top) {
        top = value;
        from = k;
      }
      let reached = load<f64>(best + eight);
      if (top + c > reached) {
        reached = top + c;
        store<u8>(row + k, <u8>from);
      }
      // The place that ended its beat now begins the next one, and those that began just before are beats too.
      const four = (<usize>k) << 2;
      const start = load<i32>(starts + four);
      const end = load<i32>(starts + four, 4);
      let at = load<i32>(turned + four);
      store<f64>(score + ((<usize>at) << 3), reached - load<f64>(preference + eight));
      store<i32>(turned + four, at + 1 === end ? start : at + 1);
      for (let p: i32 = 0; p < beatFrames; p++) {
        const here = score + ((<usize>at) << 3);
        store<f64>(here, load<f64>(here) + g);
        at = at === start ? end - 1 : at - 1;
      }
    }
    if (shared < -1e6) {
      for (let i: i32 = 0; i < places; i++) {
        const here = score + ((<usize>i) << 3);
        store<f64>(here, load<f64>(here) + shared);
      }
      shared = 0;
    }
    row += <usize>count;
  }
}
