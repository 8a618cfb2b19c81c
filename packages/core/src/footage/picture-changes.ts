import { CELL_COLUMNS, CELL_ROWS, SIGNATURE, type FilmLook } from './film-look.ts';

/** Where one shot becomes another inside a film that was edited already. */
export interface PictureChange {
  readonly kind: 'cut' | 'dissolve' | 'fade';
  /** the first frame that is not wholly the old shot */
  readonly from: number;
  /** the first frame that is wholly the new shot; of a cut the same as `from` */
  readonly to: number;
}

const { abs, max, min } = Math;
const CELLS = CELL_COLUMNS * CELL_ROWS;
/** A cut changes the cells' colours by this at least, mean of levels. */
const LEAST_CUT = 5;
/** And so many times as much as the frames around it do. */
const CUT_RATIO = 2.6;
const AROUND = 5;
/** A flash is over within so many frames. */
const FLASH_FRAMES = 12;
/** After it the picture is what it was, up to this part of the change. */
const FLASH_RETURN = 0.4;
/** Dissolves and fades: their lengths, frames, and the least that they change, mean of levels. */
const SPANS = [6, 8, 12, 16, 24, 32, 48, 64, 90] as const;
const LEAST_DISSOLVE = 7;
/** How far from a straight blend its frames may lie, part of the whole change. */
const BLEND_REST = 0.22;
/** A picture whose cells are all alike is nothing but ground: levels. */
const EMPTY_SPREAD = 5;

/** Mean distance of two frames' signatures, levels. */
function distance(s: Uint8Array, a: number, b: number): number {
  let sum = 0;
  for (let k = 0; k < SIGNATURE; k++) sum += abs(s[a * SIGNATURE + k]! - s[b * SIGNATURE + k]!) * (k < CELLS ? 1 : 1.5);
  return sum / SIGNATURE;
}

/** Spread of a frame's luma over its cells, levels. */
function spread(s: Uint8Array, frame: number): number {
  let [sum, squares] = [0, 0];
  for (let k = 0; k < CELLS; k++) {
    const v = s[frame * SIGNATURE + k]!;
    sum += v;
    squares += v * v;
  }
  return Math.sqrt(max(0, squares / CELLS - (sum / CELLS) ** 2));
}

/** How alike the luma patterns of two frames are whatever their brightness, -1 to 1 (normalised correlation). */
function patternLikeness(s: Uint8Array, a: number, b: number): number {
  let [ma, mb] = [0, 0];
  for (let k = 0; k < CELLS; k++) {
    ma += s[a * SIGNATURE + k]! / CELLS;
    mb += s[b * SIGNATURE + k]! / CELLS;
  }
  let [ab, aa, bb] = [0, 0, 0];
  for (let k = 0; k < CELLS; k++) {
    const [x, y] = [s[a * SIGNATURE + k]! - ma, s[b * SIGNATURE + k]! - mb];
    ab += x * y;
    aa += x * x;
    bb += y * y;
  }
  return aa * bb === 0 ? 0 : ab / Math.sqrt(aa * bb);
}

/** Whether the picture comes back soon after it jumped at a frame: light that flared up, not another shot. */
function comesBack(s: Uint8Array, frame: number, frames: number, jump: number): boolean {
  for (let k = 1; k <= FLASH_FRAMES && frame + k < frames; k++) if (distance(s, frame - 1, frame + k) < FLASH_RETURN * jump) return true;
  // Light that dies away slowly: the pattern is the old one, only brighter.
  const last = min(frames - 1, frame + FLASH_FRAMES);
  return patternLikeness(s, frame - 1, last) > 0.97 && distance(s, frame - 1, last) < 0.7 * jump;
}

/** Whether a jump is the end of a flash that began shortly before. */
function endsFlash(s: Uint8Array, frame: number, jump: number): boolean {
  for (let k = 2; k <= FLASH_FRAMES && frame - k >= 0; k++)
    if (distance(s, frame - k, frame) < FLASH_RETURN * jump && distance(s, frame - k, frame - 1) > 0.6 * jump) return true;
  return false;
}

function findCuts({ signatures: s, frames, unexplained }: FilmLook): number[] {
  const steps = new Float32Array(frames);
  for (let n = 1; n < frames; n++) steps[n] = distance(s, n - 1, n);
  const cuts: number[] = [];
  for (let n = 1; n < frames; n++) {
    const step = steps[n]!;
    if (step < LEAST_CUT) continue;
    let around = 0;
    let restAround = 0;
    for (let k = max(1, n - AROUND); k <= min(frames - 1, n + AROUND); k++) {
      if (k === n) continue;
      around = max(around, steps[k]!);
      restAround = max(restAround, unexplained[k]!);
    }
    // A fast pan changes the cells as much as a cut, but for many frames, and motion explains it.
    const sudden = step > CUT_RATIO * around || (step > 1.5 * around && unexplained[n]! > 2.2 * restAround);
    if (!sudden && !betweenCuts(steps, unexplained, n)) continue;
    if (comesBack(s, n, frames, step) || endsFlash(s, n, step)) continue;
    cuts.push(n);
  }
  return cuts;
}

/** Shots shorter than the surroundings that are looked at: a large step among other large steps, with stillness between. */
function betweenCuts(steps: Float32Array, unexplained: Float32Array, n: number): boolean {
  const [before, after] = [max(steps[n - 1] ?? 0, steps[n - 2] ?? 0), max(steps[n + 1] ?? 0, steps[n + 2] ?? 0)];
  const [restBefore, restAfter] = [
    max(unexplained[n - 1] ?? 0, unexplained[n - 2] ?? 0),
    max(unexplained[n + 1] ?? 0, unexplained[n + 2] ?? 0),
  ];
  const near = max(before, after);
  return steps[n]! > 2 * LEAST_CUT && steps[n]! > 4 * near && unexplained[n]! > 2.5 * max(restBefore, restAfter);
}

/** A stretch whose frames blend from what was before it to what comes after, or null. */
function blendOver(s: Uint8Array, from: number, to: number): { change: number; rest: number } | null {
  const change = distance(s, from, to);
  if (change < LEAST_DISSOLVE) return null;
  let norm = 0;
  for (let k = 0; k < SIGNATURE; k++) norm += (s[to * SIGNATURE + k]! - s[from * SIGNATURE + k]!) ** 2;
  let worst = 0;
  let last = -0.05;
  const checks = min(12, to - from - 1);
  for (let c = 1; c <= checks; c++) {
    const n = from + Math.round((c * (to - from)) / (checks + 1));
    let dot = 0;
    for (let k = 0; k < SIGNATURE; k++) {
      const a = s[from * SIGNATURE + k]!;
      dot += (s[n * SIGNATURE + k]! - a) * (s[to * SIGNATURE + k]! - a);
    }
    const part = dot / norm;
    if (part < last - 0.04 || part > 1.05 || abs(part - c / (checks + 1)) > 0.22) return null;
    last = part;
    let rest = 0;
    for (let k = 0; k < SIGNATURE; k++) {
      const [a, b] = [s[from * SIGNATURE + k]!, s[to * SIGNATURE + k]!];
      rest += abs(s[n * SIGNATURE + k]! - (a + part * (b - a))) * (k < CELLS ? 1 : 1.5);
    }
    worst = max(worst, rest / SIGNATURE / change);
  }
  return worst > BLEND_REST ? null : { change, rest: worst };
}

function findBlends(look: FilmLook, cuts: readonly number[]): PictureChange[] {
  const { signatures: s, frames } = look;
  const found: (PictureChange & { score: number })[] = [];
  for (const span of SPANS)
    for (let from = 0; from + span < frames; from += max(1, span >> 3)) {
      const to = from + span;
      if (distance(s, from, to) < LEAST_DISSOLVE) continue;
      if (cuts.some((c) => c > from && c <= to)) continue;
      const blend = blendOver(s, from, to);
      if (!blend) continue;
      // Before and after it the picture goes on without such a change.
      const [quietBefore, quietAfter] = [distance(s, max(0, from - 4), from), distance(s, to, min(frames - 1, to + 4))];
      const pace = (blend.change / span) * 4;
      if (quietBefore > pace && from > 4) continue;
      if (quietAfter > pace && to + 4 < frames) continue;
      const empty = min(spread(s, from), spread(s, to)) < EMPTY_SPREAD;
      if (!empty && patternLikeness(s, from, to) > 0.93) continue; // the same picture, lit otherwise
      found.push({ kind: empty ? 'fade' : 'dissolve', from: from + 1, to, score: blend.change * (1 - blend.rest) - 0.02 * span });
    }
  found.sort((a, b) => b.score - a.score);
  const kept: PictureChange[] = [];
  for (const { kind, from, to } of found)
    if (!kept.some((k) => from < k.to + 2 && to > k.from - 2)) kept.push({ kind, ...tightened(s, from - 1, to) });
  return kept;
}

/** A blend's ends, without the still frames before and after it. */
function tightened(s: Uint8Array, before: number, after: number): { from: number; to: number } {
  const whole = distance(s, before, after);
  let from = before + 1;
  while (from < after - 1 && distance(s, before, from) < 0.035 * whole) from++;
  let to = after;
  while (to > from + 1 && distance(s, to - 1, after) < 0.035 * whole) to--;
  return { from, to };
}

/**
 * The picture changes of a film: hard cuts to the frame, dissolves and fades as stretches (after H. Zhang, A. Kankanhalli
 * and S. Smoliar, "Automatic partitioning of full-motion video", Multimedia Systems 1993, with tests against flashes,
 * fast pans and changes of light). In the order of time.
 */
export function findPictureChanges(look: FilmLook): PictureChange[] {
  const cuts = findCuts(look);
  return [...cuts.map((n): PictureChange => ({ kind: 'cut', from: n, to: n })), ...findBlends(look, cuts)].sort((a, b) => a.from - b.from);
}
