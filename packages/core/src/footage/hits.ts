import { REGIONS, type FilmLook } from './film-look.ts';
import type { PictureChange } from './picture-changes.ts';
import type { Transient } from './transients.ts';

/** Why a frame is proposed as a hit. */
export type HitReason = 'bang' | 'jump' | 'stop' | 'turn';

/** A frame of a clip where its action may happen. */
export interface ProposedHit {
  readonly frame: number;
  readonly reason: HitReason;
  /** 0 to 1 of the clip's own best */
  readonly strength: number;
}

const { abs, hypot, max, min, round } = Math;
/** Motion before and after a frame is averaged over this, seconds. */
const WINDOW_S = 0.13;
/** Proposals are so far apart, seconds. */
const APART_S = 0.15;
/** A sound and a change of motion this near each other are one event, seconds. */
const TOGETHER_S = 0.1;
/** What motion changes by at least to be seen: region sums, parts of the picture's width a frame. */
const LEAST_CHANGE = 0.006;
const MOST_HITS = 24;
/** Starts of sounds are found a little early; a frame that begins so soon after one is meant. */
const EARLY_FRAMES = 0.25;

/** How suddenly motion changes at each frame, and in which way. */
export interface MotionChange {
  readonly frame: number;
  readonly reason: Exclude<HitReason, 'bang'>;
  readonly size: number;
}

/** Mean motion of a region over frames a to b (b not included). */
function meanMotion(momentum: Float32Array, region: number, a: number, b: number): [number, number] {
  let [x, y] = [0, 0];
  for (let n = a; n < b; n++) {
    x += momentum[2 * (n * REGIONS + region)]!;
    y += momentum[2 * (n * REGIONS + region) + 1]!;
  }
  return b > a ? [x / (b - a), y / (b - a)] : [0, 0];
}

/** Changes of motion, each at the frame after which things move differently. */
export function motionChanges(look: FilmLook, fps: number, changes: readonly PictureChange[]): MotionChange[] {
  const { frames, momentum } = look;
  const reach = max(2, round(WINDOW_S * fps));
  const size = new Float32Array(frames);
  const reasons: MotionChange['reason'][] = new Array<MotionChange['reason']>(frames).fill('jump');
  // Motion across a picture change is none.
  const broken = new Uint8Array(frames + 1);
  for (const { from, to } of changes) for (let n = max(0, from - 1); n <= min(frames, to + 1); n++) broken[n] = 1;
  for (let n = 2; n < frames - 2; n++) {
    const [a, b] = [max(1, n - reach + 1), min(frames - 1, n + reach)];
    let crossing = false;
    for (let k = a; k <= b; k++) if (broken[k] === 1) crossing = true;
    if (crossing) continue;
    for (let region = 0; region < REGIONS; region++) {
      const [bx, by] = meanMotion(momentum, region, a, n + 1);
      const [ax, ay] = meanMotion(momentum, region, n + 1, b + 1);
      const change = hypot(ax - bx, ay - by);
      if (change <= size[n]!) continue;
      size[n] = change;
      const [before, after] = [hypot(bx, by), hypot(ax, ay)];
      const cosine = before * after > 0 ? (ax * bx + ay * by) / (before * after) : 1;
      reasons[n] = min(before, after) > 0.3 * max(before, after) && cosine < 0.7 ? 'turn' : after > before ? 'jump' : 'stop';
    }
  }
  const apart = max(2, round(APART_S * fps));
  const found: MotionChange[] = [];
  for (let n = 2; n < frames - 2; n++) {
    const here = size[n]!;
    if (here < LEAST_CHANGE) continue;
    let highest = true;
    for (let k = max(0, n - apart); highest && k <= min(frames - 1, n + apart); k++)
      if (size[k]! > here || (size[k] === here && k < n)) highest = false;
    if (highest) found.push({ frame: n, reason: reasons[n]!, size: here });
  }
  return found;
}

/** How far values stand out from the middle one, so that restless clips propose only what is more than their restlessness. */
function standing(values: readonly number[]): (value: number) => number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted[sorted.length >> 1] ?? 0;
  const top = sorted.at(-1) ?? 1;
  return (value) => (top <= 0 ? 0 : max(0, (value - 0.5 * middle) / max(1e-9, top - 0.5 * middle)));
}

/**
 * Frames where the action of a clip may happen, best first: sudden sounds, and sudden changes of motion; where both
 * come together, all the more.
 * @param fps frames a second
 * @param transients of the clip's sound; none where it is silent
 * @param changes its picture changes: a cut is no action
 */
export function proposeHits(
  look: FilmLook,
  fps: number,
  transients: readonly Transient[],
  changes: readonly PictureChange[] = [],
): ProposedHit[] {
  const motion = motionChanges(look, fps, changes);
  const seen = standing(motion.map((m) => m.size));
  const loudest = transients.reduce((top, t) => max(top, t.strength), 0);
  const heard = standing(transients.map((t) => t.strength));
  const proposals: ProposedHit[] = [];
  const edge = 0.15 * fps;
  for (const { time, strength } of transients) {
    const frame = Math.floor(time * fps + EARLY_FRAMES);
    if (frame >= look.frames) continue;
    const near = motion.filter((m) => abs(m.frame - frame) <= TOGETHER_S * fps);
    const withMotion = near.reduce((top, m) => max(top, seen(m.size)), 0);
    // A sound that only just is one does not beat what is seen.
    const sure = min(1, loudest / 0.35);
    const atEdge = frame < edge || frame > look.frames - edge ? 0.5 : 1;
    proposals.push({ frame, reason: 'bang', strength: atEdge * (sure * heard(strength) + 0.5 * withMotion) });
  }
  for (const m of motion) {
    if (proposals.some((p) => p.reason === 'bang' && abs(p.frame - m.frame) <= TOGETHER_S * fps)) continue;
    const atEdge = m.frame < edge || m.frame > look.frames - edge ? 0.5 : 1;
    proposals.push({ frame: m.frame, reason: m.reason, strength: atEdge * 0.9 * seen(m.size) });
  }
  proposals.sort((a, b) => b.strength - a.strength);
  const kept: ProposedHit[] = [];
  for (const p of proposals) {
    if (kept.length === MOST_HITS || p.strength < 0.05) break;
    if (!kept.some((k) => abs(k.frame - p.frame) < APART_S * fps)) kept.push(p);
  }
  const best = kept[0]?.strength ?? 1;
  return kept.map((p) => ({ ...p, strength: min(1, p.strength / best) }));
}
