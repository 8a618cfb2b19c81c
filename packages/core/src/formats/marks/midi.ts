import { plainKindOf } from '../../marks/kinds/all.ts';
import { marksFormat } from './marks-format.ts';
import { BANDS } from '../../music/accents.ts';
import midiFile, { type MidiData, type MidiEvent } from 'midi-file';
import { countBeats, inTime, MarkingError, type FileMark, type FileSection, type Marking, type ReadMarking } from '../../marks/marking.ts';
import { sectionName } from '../../document/section-name.ts';

/** Ticks a quarter note: fine enough that a place is within 15 microseconds at 120 beats a minute. */
const TICKS = 16_000;
const SLOWEST_MICROSECONDS = 0xff_ffff;
/** Notes of the percussion channel that stand for accents, by band; velocity is strength. */
const ACCENT_NOTES = { low: 36, mid: 38, high: 42, voice: 54 } as const;
const PERCUSSION = 9;
const CUE = 'cue: ';
const SECTION = 'section ';
/** Markers that say where counting begins and ends: the tempo map has beats before and after. */
const LEAD = 'lead';
const LAST_BEAT = 'last beat';
/** What stands before the first beat is written as one beat of its own, or as many as its length needs. */
const LONGEST_LEAD_BEAT_S = 2;

/** Places of a tempo map: seconds at ticks, straight lines between. */
class TempoMap {
  private readonly steps: { readonly tick: number; readonly seconds: number; readonly perTick: number }[] = [];

  constructor(tempi: readonly { tick: number; microseconds: number }[], ticksPerBeat: number) {
    let seconds = 0;
    let tick = 0;
    let perTick = 500_000 / 1e6 / ticksPerBeat;
    this.steps.push({ tick, seconds, perTick });
    for (const tempo of tempi) {
      seconds += (tempo.tick - tick) * perTick;
      tick = tempo.tick;
      perTick = tempo.microseconds / 1e6 / ticksPerBeat;
      this.steps.push({ tick, seconds, perTick });
    }
  }

  seconds(tick: number): number {
    const step = this.steps.findLast((s) => s.tick <= tick) ?? this.steps[0]!;
    return step.seconds + (tick - step.tick) * step.perTick;
  }

  tick(seconds: number): number {
    const step = this.steps.findLast((s) => s.seconds <= seconds + 1e-9) ?? this.steps[0]!;
    return Math.max(0, Math.round(step.tick + (seconds - step.seconds) / step.perTick));
  }
}

/**
 * Reads a standard MIDI file (SMF 1.0): its tempo map and time signatures give beats and bars, to the last event; markers
 * give sections, drops and cues; lyrics give cues; notes on the percussion channel that Bluster writes for accents give those.
 * @throws MarkingError where it is none, or runs by time code instead of beats
 */
export function readMarksMidi(bytes: Uint8Array): ReadMarking {
  let file: MidiData;
  try {
    file = midiFile.parseMidi(bytes);
  } catch (error) {
    throw new MarkingError(`This is not a standard MIDI file, or it is damaged: ${(error as Error).message}.`);
  }
  if (file.tracks.length === 0) throw new MarkingError('This MIDI file is damaged: it ends after its head.');
  const { ticksPerBeat } = file.header;
  if (!ticksPerBeat) throw new MarkingError('This MIDI file counts by time code and has no beats. Write it with a tempo map.');
  const events = file.tracks.flatMap((track) => {
    let tick = 0;
    return track.map((event) => ({ tick: (tick += event.deltaTime), event }));
  });
  events.sort((a, b) => a.tick - b.tick);
  const tempi = events.flatMap(({ tick, event }) => (event.type === 'setTempo' ? [{ tick, microseconds: event.microsecondsPerBeat }] : []));
  const map = new TempoMap(tempi, ticksPerBeat);
  const signatures = events.flatMap(({ tick, event }) =>
    event.type === 'timeSignature' ? [{ tick, beats: event.numerator, unit: (ticksPerBeat * 4) / event.denominator }] : [],
  );
  if (signatures[0]?.tick !== 0) signatures.unshift({ tick: 0, beats: 4, unit: ticksPerBeat });
  let end = events.at(-1)?.tick ?? 0;
  const marks: FileMark[] = [];
  const sections: FileSection[] = [];
  let leadUntil = -1;
  const ours = events.some(({ event }) => event.type === 'text' && event.text === 'Bluster');
  for (const { tick, event } of events) {
    const time = map.seconds(tick);
    if (event.type === 'marker' || event.type === 'cuePoint' || event.type === 'lyrics') {
      const text = event.text.trim();
      const name = text.startsWith(SECTION) ? sectionName(text.slice(SECTION.length)) : null;
      if (ours && text === LEAD) leadUntil = tick;
      else if (ours && text === LAST_BEAT) end = tick;
      else if (name) sections.push({ from: time, name });
      else if (plainKindOf(text)) marks.push({ kind: plainKindOf(text)!, time });
      else if (text !== '') marks.push({ kind: 'cue', time, label: text.startsWith(CUE) ? text.slice(CUE.length) : text });
    }
    if (ours && event.type === 'noteOn' && event.channel === PERCUSSION && event.velocity > 0) {
      const band = BANDS.find((b) => ACCENT_NOTES[b] === event.noteNumber);
      if (band) marks.push({ kind: 'accent', time, band, strength: event.velocity / 127 });
    }
  }
  for (const [i, { tick: from, beats, unit }] of signatures.entries()) {
    // Compound metres are felt in threes: 6/8 has two beats (S. Raffel and D. Ellis, "Intuitive analysis ... MIDI", 2014).
    const compound = unit < ticksPerBeat && beats > 3 && beats % 3 === 0;
    const step = compound ? unit * 3 : unit;
    const inBar = compound ? beats / 3 : beats;
    const to = signatures[i + 1]?.tick ?? end + 1;
    let place = 0;
    for (let tick = from; tick < to; tick += step, place++)
      if (tick > leadUntil) marks.push({ kind: place % inBar === 0 ? 'bar' : 'beat', time: map.seconds(tick) });
  }
  if (marks.length === 0) throw new MarkingError('There is nothing in this MIDI file that marks a time.');
  return { marks: inTime(marks), sections, notes: [] };
}

/**
 * Writes a standard MIDI file (SMF 1.0, format 1): a tempo map whose quarter notes are the beats, time signatures for the
 * bars, markers for sections, drops and cues, and accents as percussion notes. Confidences are lost; times keep to about
 * 15 microseconds.
 */
export function writeMarksMidi(marking: Marking): Uint8Array {
  const beats = countBeats(marking.marks);
  const head: { tick: number; event: object }[] = [{ tick: 0, event: { type: 'text', text: 'Bluster' } }];
  const tempi: { tick: number; microseconds: number }[] = [];
  const first = beats[0]?.mark.time ?? 0;
  const pickup = beats.filter((b) => b.bar === 0).length;
  // What comes before the first beat is told by beats of its own, at whatever tempo they need; they and the beats before
  // the first downbeat make a bar.
  const leadBeats = first > 1e-6 ? Math.ceil(first / LONGEST_LEAD_BEAT_S) : pickup > 0 ? 1 : 0;
  for (let i = 0; i < leadBeats; i++) tempi.push({ tick: i * TICKS, microseconds: Math.max(1, Math.round((first / leadBeats) * 1e6)) });
  let before = 0;
  if (leadBeats > 0) {
    before = leadBeats + pickup;
    head.push({
      tick: 0,
      event: { type: 'timeSignature', numerator: Math.min(255, before), denominator: 4, metronome: 24, thirtyseconds: 8 },
    });
    head.push({ tick: (leadBeats - 1) * TICKS + TICKS / 2, event: { type: 'marker', text: LEAD } });
  }
  // Tempi are whole microseconds: each takes up what the ones before it left.
  let written = tempi.reduce((sum, t) => sum + t.microseconds, 0) / 1e6;
  for (let i = 0; i < beats.length; i++) {
    const gap = i + 1 < beats.length ? beats[i + 1]!.mark.time - written : (tempi.at(-1)?.microseconds ?? 500_000) / 1e6;
    const microseconds = Math.min(SLOWEST_MICROSECONDS, Math.max(1, Math.round(gap * 1e6)));
    tempi.push({ tick: (leadBeats + i) * TICKS, microseconds });
    written += microseconds / 1e6;
  }
  beats.forEach(({ mark }, i) => {
    if (mark.kind !== 'bar') return;
    const toNext = beats.slice(i + 1).findIndex((b) => b.mark.kind === 'bar') + 1;
    const left = beats.length - i;
    const length = toNext > 0 ? toNext : before === 0 ? left : Math.max(before, left);
    if (length !== before)
      head.push({
        tick: (leadBeats + i) * TICKS,
        event: { type: 'timeSignature', numerator: Math.min(255, length), denominator: 4, metronome: 24, thirtyseconds: 8 },
      });
    before = length;
  });
  for (const t of tempi) head.push({ tick: t.tick, event: { type: 'setTempo', microsecondsPerBeat: t.microseconds } });
  const map = new TempoMap(tempi, TICKS);
  for (const m of marking.marks) {
    if (plainKindOf(m.kind)) head.push({ tick: map.tick(m.time), event: { type: 'marker', text: m.kind } });
    if (m.kind === 'cue') head.push({ tick: map.tick(m.time), event: { type: 'marker', text: `${CUE}${m.label ?? ''}` } });
  }
  for (const s of marking.sections) head.push({ tick: map.tick(s.from), event: { type: 'marker', text: SECTION + s.name } });
  const notes: { tick: number; event: object }[] = [];
  for (const m of marking.marks) {
    if (m.kind !== 'accent') continue;
    const noteNumber = ACCENT_NOTES[m.band ?? 'mid'];
    const tick = map.tick(m.time);
    notes.push({
      tick,
      event: { type: 'noteOn', channel: PERCUSSION, noteNumber, velocity: Math.max(1, Math.round((m.strength ?? 1) * 127)) },
    });
    notes.push({ tick: tick + TICKS / 16, event: { type: 'noteOff', channel: PERCUSSION, noteNumber, velocity: 0 } });
  }
  const endTick = (leadBeats + Math.max(0, beats.length - 1)) * TICKS;
  head.push({ tick: endTick, event: { type: 'marker', text: LAST_BEAT } });
  const tracks = [track(head, endTick), ...(notes.length > 0 ? [track(notes, 0)] : [])];
  return Uint8Array.from(midiFile.writeMidi({ header: { format: 1, numTracks: tracks.length, ticksPerBeat: TICKS }, tracks }));
}

function track(events: readonly { tick: number; event: object }[], atLeast: number): MidiEvent[] {
  let before = 0;
  const sorted = events.map((e, i) => ({ ...e, i })).sort((a, b) => a.tick - b.tick || a.i - b.i);
  const body = sorted.map(({ tick, event }) => {
    const deltaTime = tick - before;
    before = tick;
    return { ...event, deltaTime } as MidiEvent;
  });
  return [...body, { deltaTime: Math.max(0, atLeast - before), type: 'endOfTrack' }];
}

export const midi = marksFormat({
  title: 'Standard MIDI file',
  endings: ['mid', 'midi'],
  sniff: ({ bytes }) => [...'MThd'].every((letter, i) => bytes[i] === letter.charCodeAt(0)),
  read: (file) => readMarksMidi(file.bytes),
  write: writeMarksMidi,
  loses: { what: 'confidences of beats', of: ({ marks }) => marks.some((m) => m.confidence !== undefined) },
});
