import { framesPerSecond, type FrameRate } from '../../time/rate.ts';
import { CutReadError, readCutOf, type ReadCut, type ReadPiece } from './read-cut.ts';

/** An event: number, reel, track, kind of edit with its length, and four time codes. */
const EVENT = /^\s*(\d+)\s+(\S+)\s+(\S+)\s+([A-Z]\S*)\s*(\d+)?\s+([\d:;.]{11})\s+([\d:;.]{11})\s+([\d:;.]{11})\s+([\d:;.]{11})\s*$/;
const SPEED = /^\s*M2\s+(\S+)\s+(-?[\d.]+)/;
const NAME = /^\*\s*(FROM|TO) CLIP NAME:\s*(.+?)\s*$/i;
const BLACK = /^(BL|BLACK)$/i;

interface Event {
  readonly reel: string;
  readonly edit: string;
  /** frames */
  readonly source: number;
  readonly from: number;
  readonly to: number;
  /** where the hour begins in which it is seen: programmes begin with one */
  readonly hour: number;
  name: string | null;
  /** frames a second of the clip; null for its own */
  speed: number | null;
}

/**
 * Frames of a time code; one with dropped numbers (29.97, SMPTE ST 12-1) has a semicolon before its frames, or is said to be.
 * @throws CutReadError
 */
function framesOf(code: string, base: number, dropped: boolean, line: number): number {
  const parts = code.split(/[:;.]/).map(Number);
  const [h = NaN, m = NaN, s = NaN, f = NaN] = parts;
  if (parts.length !== 4 || parts.some((part) => !Number.isInteger(part)) || m > 59 || s > 59)
    throw new CutReadError(`Line ${line} has a time code that cannot be read: ${code}.`);
  if (f >= base)
    throw new CutReadError(
      `Line ${line} counts ${f} frames in a second, and the montage has ${base}. Set the montage's rate to that of the list, then read it again.`,
    );
  const whole = ((h * 60 + m) * 60 + s) * base + f;
  if (!dropped) return whole;
  const minutes = h * 60 + m;
  const skipped = base / 15;
  return whole - skipped * (minutes - Math.floor(minutes / 10));
}

/**
 * Reads a cut from an edit decision list (CMX 3600): its picture events, in the order in which they are seen.
 * @param rate of the montage: a list does not say its own
 * @throws CutReadError with the line that is wrong
 */
export function readEdl(text: string, rate: FrameRate): ReadCut {
  const base = Math.round(framesPerSecond(rate));
  const fps = framesPerSecond(rate);
  const events: Event[] = [];
  const notes: string[] = [];
  let listDropped = false;
  text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .forEach((line, i) => {
      if (/^FCM:/i.test(line)) listDropped = !/NON/i.test(line);
      const event = EVENT.exec(line);
      if (event) {
        const [, , reel = '', track = '', edit = '', , sourceIn = '', , recordIn = '', recordOut = ''] = event;
        if (!/^(V\d?|B|AA\/V|A\d?\/V)$/i.test(track)) {
          notes.push('sound');
          return;
        }
        const frames = (code: string): number => framesOf(code, base, listDropped || code.includes(';'), i + 1);
        const [source, from, to] = [frames(sourceIn), frames(recordIn), frames(recordOut)];
        if (to < from) throw new CutReadError(`Line ${i + 1} ends before it begins.`);
        if (edit.startsWith('D') || edit.startsWith('W')) notes.push('transitions');
        const hour = frames(recordIn.replace(/^(\d+)(.)..(.)..(.)..$/, '$1$200$300$400'));
        if (to > from) events.push({ reel, edit, source, from, to, hour, name: BLACK.test(reel) ? null : reel, speed: null });
        return;
      }
      const last = events.at(-1);
      const speed = SPEED.exec(line);
      if (speed && last) last.speed = Number(speed[2]);
      const named = NAME.exec(line);
      // Of what goes over into something else the name comes with it, and was there before.
      const isOwn = named && last && last.name !== null && (named[1]!.toUpperCase() === 'TO' || last.edit.startsWith('C'));
      if (isOwn) last.name = named[2]!;
    });
  if (events.length === 0)
    throw new CutReadError('There is no picture in this list. An edit decision list has lines such as "001  REEL  V  C  …".');
  events.sort((a, b) => a.from - b.from);
  const pieces: ReadPiece[] = [];
  let at = events[0]!.hour;
  for (const event of events) {
    if (event.from > at) pieces.push({ name: null, length: (event.from - at) / fps, from: 0, speed: 1, mediaLength: null });
    if (event.from < at) notes.push('what lies over other picture');
    const from = Math.max(event.from, at);
    if (event.to <= from) continue;
    const speed = event.speed === null ? 1 : event.speed / fps;
    const into = (from - event.from) * Math.abs(speed);
    pieces.push({
      name: event.name,
      length: (event.to - from) / fps,
      // Backwards the list names the stretch by its earlier end.
      from: (event.source + (speed < 0 ? (event.to - event.from) * -speed - into : into)) / fps,
      speed,
      mediaLength: null,
    });
    at = event.to;
  }
  return readCutOf(pieces, notes);
}
