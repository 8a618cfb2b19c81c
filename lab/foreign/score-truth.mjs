// What a MIDI file says of its own beats and bars: by its tempo map and its time signatures.
import { there } from '../../scripts/there.mjs';
import midi from 'midi-file';

const USUAL_TEMPO = 500_000;

/** Every event of a file with the tick at which it is, in the order of its tracks. */
function timed(tracks) {
  return tracks.flatMap((track, index) => {
    let tick = 0;
    return track.map((event) => ({ tick: (tick += event.deltaTime), event, track: index }));
  });
}

/**
 * Seconds of a tick under tempos.
 * @param {{ tick: number, event: any }[]} events
 * @param {number} division ticks a quarter note
 */
function clockOf(events, division) {
  const tempi = events
    .filter(({ event }) => event.type === 'setTempo')
    .map(({ tick, event }) => ({ tick, micros: event.microsecondsPerBeat }))
    .sort((a, b) => a.tick - b.tick);
  if (tempi.length === 0 || tempi[0].tick > 0) tempi.unshift({ tick: 0, micros: USUAL_TEMPO });
  return (tick) => {
    let seconds = 0;
    for (const [i, tempo] of tempi.entries()) {
      if (tick <= tempo.tick) break;
      const to = Math.min(tick, tempi[i + 1]?.tick ?? Infinity);
      seconds += (((to - tempo.tick) / division) * tempo.micros) / 1e6;
    }
    return seconds;
  };
}

/**
 * Beats and bars of a score, seconds. Not to be trusted where its notes do not sit on them, as in some that were recorded as they
 * were played; scores.mjs leaves those out.
 * @param {Uint8Array} bytes of a standard MIDI file
 */
export function scoreTruth(bytes) {
  const { header, tracks } = midi.parseMidi(bytes);
  const division = there(header.ticksPerBeat);
  const events = timed(tracks);
  const seconds = clockOf(events, division);
  const ons = events.filter(({ event }) => event.type === 'noteOn' && event.velocity > 0).map(({ tick }) => tick);
  const end = ons.reduce((a, b) => Math.max(a, b), 0);
  const signatures = events
    .filter(({ event }) => event.type === 'timeSignature')
    .map(({ tick, event }) => ({ tick, beats: event.numerator, step: (division * 4) / event.denominator }))
    .sort((a, b) => a.tick - b.tick);
  if (signatures.length === 0) signatures.push({ tick: 0, beats: 4, step: division });
  const beats = [];
  const bars = [];
  for (const [i, { tick, beats: metre, step }] of signatures.entries()) {
    const to = Math.min(end, signatures[i + 1]?.tick ?? Infinity);
    for (let at = tick, k = 0; at < to - 1; at += step, k++) {
      beats.push(seconds(at));
      if (k % metre === 0) bars.push(seconds(at));
    }
  }
  return { beats, bars };
}
