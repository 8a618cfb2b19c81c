import { writeMidi, type MidiEvent } from 'midi-file';
import { Chance } from './chance.ts';
import { secondsAt, truthOf, type Composition, type Truth } from './composition.ts';

/** Ticks a second: the file runs at one tempo, and the piece's own tempo lies in its notes' times. */
const TICKS_A_SECOND = 960;
const MICROSECONDS = 500_000;
const DRUM_CHANNEL = 9;

/** A played piece: a standard MIDI file, and where its beats are. */
export interface Performance {
  readonly midi: Uint8Array;
  readonly truth: Truth;
}

/**
 * Plays a piece with the players' own unsteadiness.
 * @param lead silence before it, seconds
 */
export function perform(piece: Composition, seed: number, lead = 0): Performance {
  const chance = new Chance(seed + 77);
  let channel = 0;
  const tracks = piece.parts.map((part) => {
    const own = part.drums ? DRUM_CHANNEL : channel++;
    if (channel === DRUM_CHANNEL) channel++;
    const events: { tick: number; event: object }[] = [
      { tick: 0, event: { type: 'programChange', channel: own, programNumber: part.program } },
      { tick: 0, event: { type: 'controller', channel: own, controllerType: 7, value: part.volume } },
      { tick: 0, event: { type: 'controller', channel: own, controllerType: 91, value: chance.whole(0, 90) } },
    ];
    for (const note of part.notes) {
      const played = Math.max(0, lead + secondsAt(piece.tempo, Math.max(0, note.at)) + part.late + chance.normal(part.unsteady));
      const from = Math.round(played * TICKS_A_SECOND);
      const to = Math.max(from + 20, Math.round((lead + secondsAt(piece.tempo, note.at + note.length)) * TICKS_A_SECOND));
      events.push({ tick: from, event: { type: 'noteOn', channel: own, noteNumber: note.pitch, velocity: note.velocity } });
      events.push({ tick: to, event: { type: 'noteOff', channel: own, noteNumber: note.pitch, velocity: 0 } });
    }
    return inOrder(events);
  });
  const head: MidiEvent[] = [
    { deltaTime: 0, type: 'setTempo', microsecondsPerBeat: MICROSECONDS },
    { deltaTime: 0, type: 'endOfTrack' },
  ];
  const ticksPerBeat = (TICKS_A_SECOND * MICROSECONDS) / 1e6;
  const midi = writeMidi({ header: { format: 1, numTracks: tracks.length + 1, ticksPerBeat }, tracks: [head, ...tracks] });
  const { beats, bars } = truthOf(piece);
  return { midi: Uint8Array.from(midi), truth: { beats: beats.map((t) => t + lead), bars: bars.map((t) => t + lead) } };
}

function inOrder(events: { tick: number; event: object }[]): MidiEvent[] {
  let before = 0;
  const sorted = events.map((e, i) => ({ ...e, i })).sort((a, b) => a.tick - b.tick || a.i - b.i);
  const track = sorted.map(({ tick, event }) => {
    const deltaTime = tick - before;
    before = tick;
    return { ...event, deltaTime } as MidiEvent;
  });
  return [...track, { deltaTime: 0, type: 'endOfTrack' }];
}
