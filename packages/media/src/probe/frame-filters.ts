// From the core's own file: threads that look at clips load this, and the whole core takes longer to load than a short clip to look at.
import { framesPerSecond, type FrameRate } from '@bluster/core/time/rate';
import type { Framed } from '@bluster/core';
import type { MediaProbe } from './probe.ts';

type Video = NonNullable<MediaProbe['video']>;

const rateText = (rate: FrameRate): string => `${rate.num}/${rate.den}`;

/**
 * Filters that count a clip's frames at its constant rate from its first frame on, whatever its time stamps were: frame n
 * is the one on the screen at n / rate. Proxies, filmstrips and exports all count like this.
 * @param opened 'at-start' where the clip is read from its beginning; 'before' where openBefore opened it
 */
export function countFrames(video: Video, opened: 'at-start' | 'before'): string[] {
  const first = opened === 'at-start' ? 'STARTPTS' : `(${video.start.toFixed(6)}/TB)`;
  return [...(video.interlaced ? ['yadif=deint=interlaced'] : []), `setpts=PTS-${first}`, `fps=${rateText(video.rate)}`];
}

/** cd/m2 */
const WHITE_NITS = 203;
const BRIGHTEST_NITS = 1000;

/**
 * Brings high-dynamic-range light (ITU-R BT.2100) to BT.709: in linear light, where 203 cd/m2 is white (ITU-R BT.2408); a Mobius
 * curve leaves darker tones as they are and rolls off what is brighter, up to 1,000 cd/m2.
 */
function toStandardRange({ hdr }: Video): string[] {
  if (!hdr) return [];
  const coded = `tin=${hdr === 'pq' ? 'smpte2084' : 'arib-std-b67'}:pin=bt2020:min=bt2020nc`;
  return [
    `zscale=${coded}:t=linear:npl=${WHITE_NITS}`,
    'format=gbrpf32le',
    'zscale=p=bt709',
    `tonemap=tonemap=mobius:desat=0:peak=${(BRIGHTEST_NITS / WHITE_NITS).toFixed(2)}`,
    'zscale=t=bt709:m=bt709:r=tv',
    'format=yuv420p',
  ];
}

/** How the colours of a clip are coded once toStandardRange has been at them. */
const coding = ({ hdr, matrix, fullRange }: Video): { matrix: string; range: string } =>
  hdr ? { matrix: 'bt709', range: 'tv' } : { matrix, range: fullRange ? 'full' : 'tv' };

/** Square pixels in the clip's upright size, or scaled to another at once, and the colours of BT.709, before anything is cropped. */
export function squarePixels(video: Video, { width, height }: { width: number; height: number } = video): string[] {
  const { matrix, range } = coding(video);
  const colours = `in_color_matrix=${matrix}:out_color_matrix=bt709:in_range=${range}:out_range=tv`;
  // Rounding that does not darken is slower, so it is asked for only where colours are recoded.
  const flags = matrix === 'bt709' && range === 'tv' ? 'bicubic' : 'bicubic+accurate_rnd';
  return [...toStandardRange(video), `scale=${width}:${height}:flags=${flags}:${colours}`, 'format=yuv420p', 'setsar=1'];
}

/** A small picture with the same colours, scaled at once: for looking at, not for showing large. */
export function smallPicture(video: Video, size: { width: number; height: number }): string[] {
  // High range is brought down when the picture is small.
  const first = video.hdr ? [`scale=${size.width}:${size.height}:flags=area`, ...toStandardRange(video)] : [];
  const { matrix, range } = coding(video);
  const colours = `in_color_matrix=${matrix}:out_color_matrix=bt709:in_range=${range}:out_range=tv`;
  return [...first, `scale=${size.width}:${size.height}:flags=area:${colours}`, 'format=yuv420p', 'setsar=1'];
}

/** Says in the file how its colours are coded: those of squarePixels. */
export const BT709_TAGS = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'] as const;

/** Crops and scales one picture as the draw list says, on a ground of black. */
export function frameOnScreen(
  { source, target }: Framed,
  size: { width: number; height: number },
  screen: { width: number; height: number },
): string[] {
  const filters: string[] = [];
  if (source.width !== size.width || source.height !== size.height)
    filters.push(`crop=${source.width}:${source.height}:${source.x}:${source.y}`);
  if (target.width !== source.width || target.height !== source.height)
    filters.push(`scale=${target.width}:${target.height}:flags=bicubic`);
  if (target.width !== screen.width || target.height !== screen.height)
    filters.push(`pad=${screen.width}:${screen.height}:${target.x}:${target.y}:black`);
  filters.push('setsar=1', 'format=yuv420p');
  return filters;
}

/** All of a picture in a size of its own. */
export function wholePicture(size: { width: number; height: number }, raster: { width: number; height: number }): string[] {
  const scaled = size.width !== raster.width || size.height !== raster.height;
  return [...(scaled ? [`scale=${raster.width}:${raster.height}:flags=bicubic`] : []), 'setsar=1', 'format=yuv420p'];
}

/** Arguments that open a clip some time before a frame, at a keyframe, with its own time stamps kept. */
export function openBefore(path: string, video: Video, frame: number): string[] {
  const seconds = frame / framesPerSecond(video.rate) + video.start;
  // Room: a frame that is on the screen at that moment may have started well before it.
  const seek = seconds > video.room + 0.5 ? ['-noaccurate_seek', '-seek_timestamp', '1', '-ss', (seconds - video.room).toFixed(6)] : [];
  return [...seek, '-copyts', '-i', path];
}
