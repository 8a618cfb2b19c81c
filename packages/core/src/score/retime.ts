import type { FootageItem, Retime, Shot } from '../document/montage.ts';
import type { PlacedShot } from './placed-shot.ts';
import { framesPerSecond } from '../time/rate.ts';
import { clipLength } from '../document/footage-item.ts';

/** The slowest and the fastest that clips may run, 1 is as recorded. */
export const SPEED_LIMITS = { slowest: 0.1, fastest: 8 } as const;

/** A shot divided at a moment of its slot (seconds from its start): both parts show what the whole showed there. */
export function continued(placed: PlacedShot, at: number, length: number): [Shot, Shot] {
  const { shot, item } = placed;
  if (item.kind === 'photo' || shot.retime.kind === 'freeze') return [shot, shot];
  const inClip = (source: number): number => Math.max(0, Math.min(clipLength(item), source));
  const middle = inClip(placed.curve.source(at));
  const { retime } = shot;
  if (retime.kind === 'rate') return [shot, { ...shot, sourceIn: middle }];
  if (retime.kind === 'fit')
    return [
      { ...shot, retime: { kind: 'fit', sourceOut: middle } },
      { ...shot, sourceIn: middle },
    ];
  const speed = (t: number): number => Math.max(0, placed.curve.speed(t));
  const edges = (from: number, to: number): Partial<Extract<Retime, { kind: 'tied' }>> =>
    retime.ease === 'eased' ? { edges: { start: speed(from), end: speed(to) } } : {};
  return [
    { ...shot, retime: { ...retime, sourceOut: middle, ...edges(0, at) } },
    { ...shot, sourceIn: middle, retime: { ...retime, ...edges(at, length) } },
  ];
}

/**
 * Clip seconds at the start of the frame that lies at a moment of a clip.
 * @param seconds clip seconds, held to what the clip has
 */
export function onFrame(item: FootageItem, seconds: number): number {
  const fps = framesPerSecond(item.rate);
  return Math.max(0, Math.min(item.frames - 1, Math.floor(seconds * fps + 1e-4))) / fps;
}

/**
 * The fastest and slowest that a clip runs in a slot, clip seconds a montage second, backwards counted as forwards.
 * @returns 0 as the slowest where it stands
 */
export function speedsOf(placed: PlacedShot): { readonly slowest: number; readonly fastest: number } {
  const { nodes } = placed.curve;
  if (nodes.length < 2) return { slowest: 0, fastest: 0 };
  const speeds = nodes.slice(1).flatMap((n, i) => {
    const a = nodes[i]!;
    return [0.02, 0.25, 0.5, 0.75, 0.98].map((t) => Math.abs(placed.curve.speed(a.at + t * (n.at - a.at))));
  });
  return { slowest: Math.min(...speeds), fastest: Math.max(...speeds) };
}

/** A shot so retimed that the frames seen in its slot are seen in the opposite order. @param length of the slot, @param frame of the montage, seconds */
export function reversed(placed: PlacedShot, length: number, frame: number): Shot {
  const { shot, item } = placed;
  const { retime } = shot;
  if (item.kind === 'photo' || retime.kind === 'freeze' || length <= frame) return shot;
  // Not brought onto the clip's frames: at another rate the moments between them matter.
  const last = Math.max(0, Math.min(clipLength(item), placed.curve.source(length - frame)));
  if (retime.kind === 'rate') return { ...shot, sourceIn: last, retime: { kind: 'rate', rate: -retime.rate } };
  const sourceOut = Math.max(0, Math.min(clipLength(item), last - ((last - shot.sourceIn) * length) / (length - frame)));
  return { ...shot, sourceIn: last, retime: { kind: 'fit', sourceOut } };
}

/** A shot of a slot whose end moved by so many seconds: one that was fitted to its slot keeps its speed as far as there is footage. */
export function endMoved({ shot, item, curve }: PlacedShot, length: number, by: number): Shot {
  const { retime } = shot;
  if (item.kind === 'photo' || (retime.kind !== 'fit' && retime.kind !== 'tied') || by === 0) return shot;
  const end = by < 0 ? curve.source(Math.max(0, length + by)) : curve.source(length) + by * curve.speed(length);
  return { ...shot, retime: { ...retime, sourceOut: Math.max(0, Math.min(clipLength(item), end)) } };
}

/** A shot's speed on the whole as an even one. */
export function evenPace({ shot, speed }: PlacedShot): Retime {
  if (shot.retime.kind === 'rate' || shot.retime.kind === 'freeze') return shot.retime;
  return { kind: 'rate', rate: Math.sign(speed || 1) * Math.max(0.05, Math.min(20, Math.abs(speed))) };
}
