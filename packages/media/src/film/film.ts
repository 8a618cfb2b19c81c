import { once } from 'node:events';
import { rm, writeFile } from 'node:fs/promises';
import { askedFilm, frameTime, mixPlan, USUAL_WISH, type AskedFilm, type FilmWish, type Loudness, type Montage } from '@bluster/core';
import { CancelledError, MediaProgramError, start } from '../program/run.ts';
import { failureOf } from '../program/media-program-error.ts';
import { makeWhole } from '../program/whole-file.ts';
import { ahead } from './ahead.ts';
import { encoderWords, filmChapters } from './encoder-words.ts';
import { filmFrames, type PictureSources } from './film-frames.ts';
import { tagsText, type FilmTags } from './film-tags.ts';
import { FramePrints } from './frame-print.ts';
import { renderMix, type SoundPath } from './mix.ts';
import { SharedFrames } from './shared-frames.ts';
import { shownTimes } from './shown-times.ts';

/** Where a film's material lies. */
export interface FilmSources extends PictureSources {
  readonly soundPath: SoundPath;
}

export interface FilmOptions {
  /** what kind of film is made of it; all of the montage in the usual way where nothing is asked for */
  readonly wish?: FilmWish;
  readonly tags?: FilmTags | null;
  readonly signal?: AbortSignal | undefined;
  /** how large it may become, bytes; a larger one ends as on a full disk */
  readonly writes?: number;
  /** told after each frame written */
  readonly onFrame?: (done: number, total: number) => void;
}

/** What came of it. */
export interface MadeFilm {
  /** as it was asked for, with the montage in the film's shape */
  readonly asked: AskedFilm;
  /** how loud it is; null without sound */
  readonly loudness: Loudness | null;
  /** of each frame as it was to be, PRINT_BYTES each; none of sound alone */
  readonly prints: Uint8Array;
  /** when its frames are shown, seconds, as its file says; none of sound alone */
  readonly times: readonly number[];
}

/** Frames that are made while the encoder is busy with those before them: as long as they last, the next decoder may take to begin. */
const AHEAD_BYTES = 16e6;
const framesAhead = ({ width, height }: { width: number; height: number }): number =>
  Math.max(3, Math.min(12, Math.floor(AHEAD_BYTES / (width * height * 1.5))));

/**
 * Renders a montage to a file. Which source frame is seen in which frame of the film comes from core,
 * one by one, so every cut lies where the score says.
 * @throws MediaProgramError, CancelledError, Refusal for a stretch that there is not; an unfinished film is removed
 */
export function renderFilm(montage: Montage, sources: FilmSources, to: string, options: FilmOptions = {}): Promise<MadeFilm> {
  const asked = askedFilm(montage, options.wish ?? USUAL_WISH);
  const pictures = asked.preset.holds !== 'sound';
  return makeWhole(to, async (unfinished) => {
    const made = await writeFilm(asked, sources, unfinished, options);
    if (!pictures) return { ...made, times: [] };
    const times = await shownTimes(unfinished, { signal: options.signal });
    const frames = asked.to - asked.from;
    if (times.length !== frames) throw new MediaProgramError(`the film came out with ${times.length} frames in place of ${frames}`);
    return { ...made, times };
  });
}

async function writeFilm(asked: AskedFilm, sources: FilmSources, to: string, options: FilmOptions): Promise<Omit<MadeFilm, 'times'>> {
  const { signal } = options;
  const { montage, preset } = asked;
  const { rate } = montage.shape;
  const files = { mix: `${to}.mix.wav`, tags: `${to}.tags` };
  try {
    let loudness: Loudness | null = null;
    if (preset.sound.length > 0) {
      const seconds = frameTime(asked.to, rate) - frameTime(asked.from, rate);
      const { soundPath } = sources;
      const order = { plan: mixPlan(montage), from: frameTime(asked.from, rate), seconds, soundPath, target: asked.loudness, signal };
      ({ loudness } = await renderMix(order, files.mix));
    }
    if (signal?.aborted) throw new CancelledError();
    const tagged = options.tags && preset.sound.length > 0 ? options.tags : null;
    if (tagged) await writeFile(files.tags, tagsText(tagged, filmChapters(asked)));
    const words = encoderWords(asked, { mix: loudness ? files.mix : null, tags: tagged ? files.tags : null }, to);
    const prints = await encode(asked, sources, words, options);
    return { asked, loudness, prints };
  } catch (error) {
    if (signal?.aborted) throw new CancelledError();
    throw error;
  } finally {
    for (const path of Object.values(files)) await rm(path, { force: true });
  }
}

/** Hands the frames to the encoder. @returns their prints */
async function encode(asked: AskedFilm, sources: FilmSources, words: readonly string[], options: FilmOptions): Promise<Uint8Array> {
  const { signal, onFrame, writes } = options;
  const { montage, from, to, preset } = asked;
  const { width, height } = montage.shape;
  // It reads our own frames, and of large ones keeps many.
  const encoder = start('ffmpeg', words, { signal, input: 'open', memory: null, ...(writes === undefined ? {} : { writes }) });
  const toEncoder = encoder.stdin!;
  let said = '';
  let broken = false;
  encoder.stderr!.on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(-2000)));
  toEncoder.on('error', () => (broken = true)); // its reason comes on standard error
  encoder.stdout!.resume();
  const closed = once(encoder, 'close') as Promise<[number | null, NodeJS.Signals | null]>;
  const frames = new SharedFrames();
  const prints = new FramePrints(width, height, to - from);
  let done = 0;
  let ended = false;
  void closed.then(() => (ended = true)).catch(() => (ended = true));
  const write = async (frame: Uint8Array): Promise<void> => {
    prints.push(frame);
    if (!toEncoder.write(frame, () => frames.giveBack(frame)) && !ended) await Promise.race([once(toEncoder, 'drain'), closed]);
    onFrame?.(++done, to - from);
  };
  if (preset.holds !== 'sound')
    for await (const frame of ahead(filmFrames(montage, sources, { from, to, signal, frames }), framesAhead(montage.shape))) {
      if (broken || ended) break;
      await write(frame);
    }
  toEncoder.end();
  const [code, signalled] = await closed;
  if (signal?.aborted) throw new CancelledError();
  if (signalled === 'SIGXFSZ') throw new MediaProgramError('the film grew larger than there is room for', 'No space left on device');
  if (code !== 0) throw failureOf(said, 'the film could not be encoded');
  return prints.result();
}
