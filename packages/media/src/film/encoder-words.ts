import { chaptersOf, frameTime, type AskedFilm } from '@bluster/core';
import { BT709_TAGS } from '../probe/frame-filters.ts';

/** How a film's picture is encoded; the benchmark against ffmpeg alone uses the same words. */
export const videoCodec = ({ preset, quality }: Pick<AskedFilm, 'preset' | 'quality'>): readonly string[] => {
  const words = preset.video[quality] ?? [];
  return preset.holds === 'film' ? [...words, ...BT709_TAGS] : words;
};

/** Where what the encoder reads lies; null for what it is not given. Frames come on its standard input. */
export interface EncoderInput {
  readonly mix: string | null;
  readonly tags: string | null;
}

/** Containers that count a film's time in parts of a second that are ours to choose: whole frames then. */
const COUNTS_FRAMES = ['mp4', 'mov'];

/** Frames that wait inside ffmpeg, in place of eight: more of them wait before it, where they lie anyway. */
const FEW_WAIT = ['-thread_queue_size', '2'];

/** ffmpeg's words for a film, from raw frames, its mix and its tags. */
export function encoderWords(film: AskedFilm, { mix, tags }: EncoderInput, to: string): string[] {
  const { montage, preset } = film;
  const { width, height, rate } = montage.shape;
  const pictures = preset.holds !== 'sound';
  const raw = [...FEW_WAIT, '-f', 'rawvideo', '-pix_fmt', 'yuv420p', '-color_range', 'tv', '-colorspace', 'bt709'];
  const frames = [...raw, '-s', `${width}x${height}`, '-r', `${rate.num}/${rate.den}`, '-i', 'pipe:0'];
  const inputs = [...(pictures ? ['frames'] : []), ...(mix ? ['mix'] : []), ...(tags ? ['tags'] : [])];
  const nth = (input: string): number => inputs.indexOf(input);
  return [
    ...['-v', 'error', '-y'],
    ...(pictures ? frames : []),
    ...(mix ? [...(preset.soundEarly ? ['-itsoffset', String(preset.soundEarly)] : []), '-i', mix] : []),
    ...(tags ? ['-f', 'ffmetadata', '-i', tags] : []),
    ...(pictures ? ['-map', `${nth('frames')}:v`, ...videoCodec(film)] : []),
    ...(mix ? ['-map', `${nth('mix')}:a`, ...preset.sound] : []),
    ...(tags ? ['-map_metadata', String(nth('tags')), '-map_chapters', String(nth('tags'))] : []),
    ...(COUNTS_FRAMES.includes(preset.container) ? ['-video_track_timescale', String(rate.num)] : []),
    ...preset.containerOptions,
    ...['-f', preset.container, to],
  ];
}

/** The chapters of a film: the song's sections that it shows. */
export function filmChapters({ montage, from, to }: AskedFilm): ReturnType<typeof chaptersOf> {
  const { rate } = montage.shape;
  return chaptersOf(montage, frameTime(from, rate), frameTime(to, rate));
}
