import { Tape, kick, noiseSource, pluck, snare } from './synth.ts';
import type { ClipScript } from './clip-script.ts';

/** The sound of a clip: wind on the hill, and the action where it happens. */
export function clipSound(clip: ClipScript): Tape {
  const tape = new Tape(clip.length);
  const air = noiseSource(clip.name.length * 31 + 7);
  let low = 0;
  tape.add(0, clip.length, 0.05, 0, (t) => (low += 0.02 * (air() - low)) * (6 + 2 * Math.sin(t * 1.3)));
  for (const [i, at] of clip.actions.entries()) {
    if (clip.sound === 'drum') {
      tape.add(at, 0.5, 0.9, 0, kick());
      tape.add(at, 0.2, 0.25, 0, snare(i + 3));
    } else if (clip.sound === 'twang') {
      tape.add(at, 0.9, 0.7, 0, pluck(147, 0.35));
      tape.add(at, 0.05, 0.5, 0, snare(5));
    } else if (clip.sound === 'whistle') {
      tape.add(
        at,
        0.6,
        0.35,
        0,
        (t) => Math.sin(2 * Math.PI * (2350 * t + 3 * Math.sin(t * 170))) * Math.min(1, t / 0.004) * Math.min(1, (0.6 - t) / 0.08),
      );
    } else if (clip.sound === 'whoosh') {
      const n = noiseSource(17);
      let band = 0;
      tape.add(at, 0.8, 0.9, 0, (t) => (band += (0.08 + 0.3 * Math.exp(-t * 6)) * (n() - band)) * Math.exp(-t * 4) * Math.min(1, t / 0.01));
    } else if (clip.sound === 'cheer') {
      const n = noiseSource(40 + i);
      let band = 0;
      tape.add(
        at,
        1.3,
        0.6,
        0,
        (t) =>
          (band += 0.25 * (n() - band)) * (0.7 + 0.3 * Math.sin(t * 41) * Math.sin(t * 23)) * Math.min(1, t / 0.02) * Math.exp(-t * 2.2),
      );
    }
  }
  return tape;
}
