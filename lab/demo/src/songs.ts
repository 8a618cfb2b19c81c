import { Tape, bass, crash, hat, kick, noiseSource, noteHz, pad, pluck, riser, snare } from './synth.ts';

/** A composed song with the truth about its beats. Times in seconds. */
export interface ComposedSong {
  readonly name: string;
  readonly tape: Tape;
  readonly beats: readonly number[];
  readonly bars: readonly number[];
}

/** The time of a place that lies between beats. */
function placer(beats: readonly number[]): (beat: number) => number {
  return (beat) => {
    const i = Math.max(0, Math.min(beats.length - 2, Math.floor(beat)));
    return beats[i]! + (beat - i) * (beats[i + 1]! - beats[i]!);
  };
}

const PROGRESSION = [
  [57, 60, 64],
  [53, 57, 60],
  [48, 52, 55],
  [55, 59, 62],
] as const;
/** Steps of the tune through the notes of each bar's chord. */
const TUNE = [2, 1, 0, 1, 2, 3, 2, 1] as const;

/** "Gust on the Down": 124 beats a minute, as steadily as people play: intro, build, drop, break, second drop, ending. */
export function composeGust(): ComposedSong {
  const bars = 30;
  const drift = noiseSource(77);
  const beats: number[] = [];
  let t = 0.12;
  let wander = 0;
  for (let i = 0; i <= bars * 4 + 4; i++) {
    beats.push(t);
    wander = 0.9 * wander + 0.0012 * drift();
    t += (60 / 124) * (1 + 0.004 * Math.sin(i * 0.11) + wander);
  }
  const at = placer(beats);
  const tape = new Tape(at(bars * 4) + 0.9);
  const section = (bar: number): 'intro' | 'build' | 'drop' | 'break' | 'ending' =>
    bar < 4 ? 'intro' : bar < 8 ? 'build' : bar < 16 ? 'drop' : bar < 20 ? 'break' : bar < 28 ? 'drop' : 'ending';
  for (let bar = 0; bar < bars; bar++) {
    const s = section(bar);
    const first = bar * 4;
    const chord = PROGRESSION[Math.floor(bar) % 4]!;
    const long = at(first + 4) - at(first);
    const full = s === 'drop';
    tape.add(at(first), long, full ? 0.42 : 0.2, 0.2, pad(chord, long, full ? 0.5 : s === 'build' ? 0.12 + 0.08 * (bar - 4) : 0.12));
    if (s !== 'ending')
      for (let k = 0; k < 4; k++) {
        if (full || s === 'build') tape.add(at(first + k), 0.4, s === 'build' ? 0.5 : 0.85, 0, kick());
        if ((full || (s === 'build' && bar >= 5)) && k % 2 === 1) tape.add(at(first + k), 0.25, 0.5, -0.1, snare(bar * 4 + k));
        for (const half of [0, 0.5])
          if (full || s === 'build' || (s === 'intro' && half === 0))
            tape.add(at(first + k + half), 0.12, half ? 0.24 : 0.15, 0.35, hat(bar * 8 + k * 2 + half * 2 + 3, half ? 0.05 : 0.025));
      }
    if (bar === 7) for (let k = 0; k < 16; k++) tape.add(at(first + k / 4), 0.2, 0.12 + 0.03 * k, 0, snare(500 + k));
    if (bar === 4) tape.add(at(first), at(32) - at(16), 0.4, 0, riser(9, at(32) - at(16)));
    if (bar === 18) tape.add(at(first), at(80) - at(72), 0.35, 0, riser(11, at(80) - at(72)));
    if (bar === 8 || bar === 20 || bar === 28) tape.add(at(first), 2.4, 0.5, -0.2, crash(bar));
    const root = chord[0] - 12;
    if (full)
      for (let k = 0; k < 8; k++)
        tape.add(
          at(first + k / 2),
          (at(first + 0.5) - at(first)) * 0.95,
          k % 2 === 0 ? 0.5 : 0.38,
          0,
          bass(noteHz(root + (k === 7 ? 12 : 0)), 0.22),
        );
    else if (s === 'build' || s === 'intro') tape.add(at(first), long * 0.9, 0.3, 0, bass(noteHz(root), long * 0.9));
    if (s === 'ending') {
      tape.add(at(first), 0.4, 0.7, 0, kick());
      tape.add(at(first), long * 1.2, 0.5, 0, bass(noteHz(root), long * 1.2));
    }
    const tune = full || s === 'break' || s === 'intro';
    if (tune)
      for (let k = 0; k < 8; k++) {
        if (s === 'intro' && k % 2 === 1) continue;
        const step = TUNE[(k + 3 * (bar % 2)) % TUNE.length]!;
        const note = chord[step % 3]! + 12 + (step === 3 ? 12 : 0) + (full && bar % 4 === 3 ? 12 : 0);
        tape.add(at(first + k / 2), 0.7, full ? 0.26 : 0.3, -0.35, pluck(noteHz(note), 0.32));
      }
  }
  tape.add(at(bars * 4), 0.9, 0.6, 0, pluck(noteHz(45), 0.6));
  const used = beats.slice(0, bars * 4 + 1);
  return { name: 'gust-on-the-down', tape, beats: used, bars: used.filter((_, i) => i % 4 === 0) };
}

const WALTZ = [
  { bass: 43, chord: [59, 62, 67] },
  { bass: 40, chord: [59, 64, 67] },
  { bass: 45, chord: [60, 64, 69] },
  { bass: 38, chord: [57, 60, 66] },
] as const;

/** "Lanterns at Nine": a waltz for strings and plucked notes, no drums, whose tempo bends with the phrase. */
export function composeLanterns(): ComposedSong {
  const bars = 27;
  const beats: number[] = [];
  let t = 0.35;
  for (let i = 0; i <= bars * 3 + 3; i++) {
    beats.push(t);
    const phrase = (i % 24) / 24;
    t += (60 / 104) * (1 - 0.1 * Math.sin(phrase * Math.PI) + (phrase > 0.85 ? 0.12 : 0)) * (i > (bars - 2) * 3 ? 1.18 : 1.04);
  }
  const at = placer(beats);
  const tape = new Tape(at(bars * 3) + 1.8);
  const tune = [74, 71, 67, 76, 72, 69, 78, 74, 69, 79, 76, 74];
  for (let bar = 0; bar < bars; bar++) {
    const { bass: low, chord } = WALTZ[bar % 4]!;
    const first = bar * 3;
    tape.add(at(first), 1.6, 0.5, -0.1, pluck(noteHz(low), 0.9));
    for (const k of [1, 2])
      for (const note of chord) tape.add(at(first + k) + 0.004 * (note % 3), 0.8, 0.15, 0.3, pluck(noteHz(note), 0.3));
    const long = at(first + 3) - at(first);
    tape.add(at(first), long, 0.07, 0.4, pad(chord, long, 0.08));
    for (let k = 0; k < 3; k++) {
      if (bar % 4 === 3 && k > 0) continue;
      tape.add(at(first + k), 1.1, k === 0 ? 0.4 : 0.3, -0.3, pluck(noteHz(tune[(bar * 3 + k) % tune.length]!), 0.5));
    }
    if (bar % 2 === 1) tape.add(at(first + 2.5), 0.6, 0.2, -0.3, pluck(noteHz(tune[(bar * 3 + 4) % tune.length]!), 0.3));
  }
  tape.add(at(bars * 3), 1.8, 0.6, 0, pluck(noteHz(43), 1.2));
  for (const note of [59, 62, 67, 74]) tape.add(at(bars * 3), 1.8, 0.25, 0.2, pluck(noteHz(note), 0.9));
  const used = beats.slice(0, bars * 3 + 1);
  return { name: 'lanterns-at-nine', tape, beats: used, bars: used.filter((_, i) => i % 3 === 0) };
}
