// From the core's own files, and what is for later then: the whole of it takes longer to load than many a song to decode.
import type { Detection } from '@bluster/core/music/detect';
import type { Reading } from '@bluster/core/music/readings';
import type { OnsetMeter } from '@bluster/core/music/onset-strength';
import { ANALYSIS_RATE } from '@bluster/core/music/signal';
import type { FileMark } from '@bluster/core/marks/marking';
import type { MarksFormat } from '@bluster/core/formats/marks/all';
import { hearSound } from '@bluster/media/sound/sound';
import { accentsBeside } from './accents-beside.ts';
import { decodeSong } from './song-file.ts';
import { InputError } from './usage.ts';

/** What `bluster beats` can be asked to print; nothing asked for means the beats, or in richer formats everything. */
export interface Wanted {
  readonly beats?: boolean;
  readonly bars?: boolean;
  readonly accents?: boolean;
  readonly sections?: boolean;
  readonly drops?: boolean;
}

/** The marks of a detection that are wanted, in the order of time. */
function wantedMarks(detection: Detection, wanted: Wanted): FileMark[] {
  const bars = wanted.beats || wanted.bars;
  return [
    ...detection.beats
      .filter((b) => (b.downbeat ? bars : wanted.beats))
      .map((b): FileMark => ({ kind: b.downbeat ? 'bar' : 'beat', time: b.time, confidence: Number(b.confidence.toFixed(4)) })),
    ...(wanted.drops ? detection.drops.map((time): FileMark => ({ kind: 'drop', time })) : []),
    ...(wanted.accents
      ? detection.accents.map((a): FileMark => ({ kind: 'accent', time: a.time, band: a.band, strength: Number(a.strength.toFixed(4)) }))
      : []),
  ].sort((a, b) => a.time - b.time);
}

/** Another reading, as far as it says what is meant by it: how fast, in bars of how many, and where its bars begin. */
const briefly = ({ chance, bpm, metre, beats }: Reading): object => ({
  chance,
  bpm,
  metre,
  beats: beats.map((b) => b.time),
  bars: beats.flatMap((b) => (b.downbeat ? [b.time] : [])),
});

/** What `bluster beats` prints. */
export async function printDetection(detection: Detection, format: MarksFormat, asked: Wanted): Promise<string | Uint8Array> {
  const named = Object.values(asked).some(Boolean);
  const everything: Wanted = { beats: true, bars: true, accents: true, sections: true, drops: true };
  if (format === 'text') {
    const wanted = named ? asked : { beats: true };
    const marks = wantedMarks(detection, wanted).map((m) => m.time);
    const sections = wanted.sections ? detection.sections.map((s) => s.from) : [];
    const { writeBeatText } = await import('@bluster/core/formats/marks/text');
    return writeBeatText([...marks, ...sections].sort((a, b) => a - b));
  }
  const wanted = named ? asked : everything;
  if (format === 'json') {
    const { beats, sections, drops, accents, tempo, others, ...about } = detection;
    const [second] = others;
    const counted = wanted.beats ? beats : wanted.bars ? beats.filter((b) => b.downbeat) : null;
    const lists = {
      ...(counted ? { beats: counted, tempo } : {}),
      ...(wanted.sections ? { sections } : {}),
      ...(wanted.drops ? { drops } : {}),
      ...(wanted.accents ? { accents } : {}),
    };
    return `${JSON.stringify({ ...about, second: second ? briefly(second) : null, ...lists }, null, 2)}\n`;
  }
  const { writeMarks } = await import('@bluster/core/formats/marks/all');
  const sections = wanted.sections ? detection.sections : [];
  return writeMarks(format, { marks: wantedMarks(detection, wanted), sections, length: detection.length });
}

/** Finds a song's beats, hearing it while it is decoded, and its accents beside them. */
export async function findBeats(path: string): Promise<Detection> {
  const { signal, onsets, countIn } = await decodeSong(path, async () => {
    // The program that decodes is started first, and what listens is loaded meanwhile.
    const early: Float32Array[] = [];
    let take = (samples: Float32Array): unknown => early.push(samples);
    const listening = async (): Promise<OnsetMeter> => {
      const { OnsetMeter } = await import('@bluster/core/music/onset-strength');
      const meter = new OnsetMeter(ANALYSIS_RATE);
      for (const samples of early) meter.push(samples);
      take = (samples) => meter.push(samples);
      return meter;
    };
    const decoding = hearSound(path, (samples) => void take(samples));
    const [meter, { countIn }] = await Promise.all([listening(), import('@bluster/core/music/detect'), decoding]);
    const heard = meter.finish();
    return { ...heard, countIn, seconds: heard.signal.samples.length / ANALYSIS_RATE };
  });
  const accents = accentsBeside(signal, onsets);
  try {
    const counting = countIn(signal, onsets);
    if (counting.beats.length === 0) throw new InputError(counting.verdict ?? 'No beat was found in this song.');
    return { ...counting, accents: await accents.found };
  } finally {
    accents.end();
  }
}
