import { FRAME_RATES, framesPerSecond, type FrameRate } from '../time/rate.ts';
import type { FootageItem, Shape } from '../document/montage.ts';

type Sized = Pick<FootageItem, 'kind' | 'width' | 'height' | 'rate' | 'frames'>;
type Way = 'wide' | 'upright' | 'square';

/** Sizes for montages whose footage has none to give: photos are of any size, and larger than films. */
const USUAL: { readonly [W in Way]: { readonly width: number; readonly height: number } } = {
  wide: { width: 1920, height: 1080 },
  upright: { width: 1080, height: 1920 },
  square: { width: 1080, height: 1080 },
};
const USUAL_RATE: FrameRate = { num: 30, den: 1 };
/** Clips of fewer frames a second do not make the film's rate: cuts would be late by up to half of their frames. */
const LEAST_FPS = 20;
const MOST_SIDE = 3840;

function wayOf({ width, height }: { readonly width: number; readonly height: number }): Way {
  const aspect = width / height;
  return aspect > 1.08 ? 'wide' : aspect < 0.93 ? 'upright' : 'square';
}

const even = (side: number): number => Math.max(16, Math.min(MOST_SIDE, 2 * Math.round(side / 2)));
const lengthOf = ({ frames, rate }: Sized): number => frames / framesPerSecond(rate);
/** Pixels for so many seconds: a long clip that is small does not make the film small. */
const pictureIn = (clip: Sized): number => lengthOf(clip) * clip.width * clip.height;

/** What most have, by number and, where that is the same, by how much there is of it. Null for none. */
function mostOf<T, K>(items: readonly T[], keyOf: (item: T) => K, amountOf: (item: T) => number): K | null {
  const groups = new Map<string, { key: K; count: number; amount: number }>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(JSON.stringify(key)) ?? { key, count: 0, amount: 0 };
    groups.set(JSON.stringify(key), { key, count: group.count + 1, amount: group.amount + amountOf(item) });
  }
  return [...groups.values()].sort((a, b) => b.count - a.count || b.amount - a.amount)[0]?.key ?? null;
}

/** The rate of films that is nearest to a clip's; clips of more than 60 frames a second count by halves. */
function filmRate(rate: FrameRate): FrameRate {
  let fps = framesPerSecond(rate);
  while (fps > 61) fps /= 2;
  const off = (r: FrameRate): number => Math.abs(framesPerSecond(r) / fps - 1);
  return FRAME_RATES.reduce((best, r) => (off(r) < off(best) ? r : best));
}

/**
 * The size and rate that most of the footage has: upright, wide or square as most files are, the size that most clips of that kind
 * have, and of equally many that of which there is most to see (1920x1080, 1080x1920 or 1080x1080 where there are only photos), and
 * the rate that most of those have.
 * @returns null where there is no footage
 */
export function proposeShape(footage: readonly Sized[]): Shape | null {
  const way = mostOf(footage, wayOf, lengthOf);
  if (!way) return null;
  const clips = footage.filter((f) => f.kind === 'clip');
  const sizes = clips.filter((c) => wayOf(c) === way);
  const size = mostOf(sizes, ({ width, height }) => ({ width: even(width), height: even(height) }), pictureIn) ?? USUAL[way];
  const quick = (of: readonly Sized[]): FrameRate | null =>
    mostOf(
      of.filter((c) => framesPerSecond(c.rate) >= LEAST_FPS),
      (c) => filmRate(c.rate),
      lengthOf,
    );
  return { ...size, rate: quick(sizes) ?? quick(clips) ?? USUAL_RATE };
}
