import { SIGNATURE, CELL_COLUMNS, CELL_ROWS, type FilmLook } from './film-look.ts';
import { proposeHits, type ProposedHit } from './hits.ts';
import { findPictureChanges, type PictureChange } from './picture-changes.ts';
import type { Transient } from './transients.ts';

/** What a stretch of a clip is like, each 0 to 1. */
export interface Character {
  /** how much moves in it */
  readonly movement: number;
  readonly brightness: number;
  readonly sharpness: number;
}

/** What is known of a clip after it was looked at; kept as JSON. */
export interface ClipSummary extends Character {
  readonly version: 1;
  readonly frames: number;
  /** values a second of the curves, evenly spaced */
  readonly curveRate: number;
  /** how much moves, how bright, how sharp: 0 to 255 */
  readonly movementCurve: readonly number[];
  readonly brightnessCurve: readonly number[];
  readonly sharpnessCurve: readonly number[];
  /** main colours, the most frequent first, as #rrggbb */
  readonly colours: readonly string[];
  /** best first */
  readonly hits: readonly ProposedHit[];
  readonly changes: readonly PictureChange[];
}

const { abs, floor, max, min, round, sqrt } = Math;
const CURVE_RATE = 20;
/** A curve has no more values than this, however long the clip. */
const LONGEST_CURVE = 20_000;
/** Movement that counts as full: mean motion of blocks, parts of the width a second. */
const FULL_MOVEMENT = 0.25;
const MAIN_COLOURS = 3;

/** A curve of so many values a second, each the largest (or the mean) of the frames it stands for. */
function curveOf(values: Float32Array, fps: number, rate: number, how: 'largest' | 'mean'): number[] {
  const count = max(1, Math.ceil((values.length / fps) * rate));
  return Array.from({ length: count }, (_, i) => {
    const a = min(values.length - 1, floor((i / rate) * fps));
    const b = max(a + 1, min(values.length, floor(((i + 1) / rate) * fps)));
    let [top, sum] = [0, 0];
    for (let n = a; n < b; n++) {
      top = max(top, values[n]!);
      sum += values[n]!;
    }
    return round(255 * min(1, how === 'largest' ? top : sum / (b - a)));
  });
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / max(1, values.length);

function hex(y: number, u: number, v: number): string {
  const part = (value: number): string =>
    max(0, min(255, round(value)))
      .toString(16)
      .padStart(2, '0');
  const light = 1.164 * (y - 16);
  // ITU-R BT.709
  return `#${part(light + 1.793 * (v - 128))}${part(light - 0.213 * (u - 128) - 0.533 * (v - 128))}${part(light + 2.112 * (u - 128))}`;
}

/** The colours that most cells of most frames have, unlike one another. */
function mainColours({ signatures, frames }: FilmLook): string[] {
  const cells = CELL_COLUMNS * CELL_ROWS;
  const bins = new Map<number, { count: number; y: number; u: number; v: number }>();
  const step = max(1, floor(frames / 200));
  for (let n = 0; n < frames; n += step)
    for (let c = 0; c < cells; c++) {
      const [y, u, v] = [0, 1, 2].map((k) => signatures[n * SIGNATURE + k * cells + c]!) as [number, number, number];
      const key = ((y >> 5) << 10) | ((u >> 3) << 5) | (v >> 3);
      const bin = bins.get(key) ?? { count: 0, y: 0, u: 0, v: 0 };
      bins.set(key, { count: bin.count + 1, y: bin.y + y, u: bin.u + u, v: bin.v + v });
    }
  const colours = [...bins.values()]
    .sort((a, b) => b.count - a.count)
    .map(({ count, y, u, v }) => ({ y: y / count, u: u / count, v: v / count }));
  const chosen: typeof colours = [];
  for (const c of colours) {
    if (chosen.length === MAIN_COLOURS) break;
    if (chosen.every((o) => abs(o.y - c.y) + 2 * abs(o.u - c.u) + 2 * abs(o.v - c.v) > 40)) chosen.push(c);
  }
  return chosen.map((c) => hex(c.y, c.u, c.v));
}

/** Puts together what was seen and heard in a clip. @param fps frames a second */
export function summarise(look: FilmLook, fps: number, transients: readonly Transient[]): ClipSummary {
  const curveRate = min(CURVE_RATE, fps, max(0.5, LONGEST_CURVE / max(1, look.frames / fps)));
  const changes = findPictureChanges(look);
  const moved = look.movement.map((m, n) => sqrt(min(1, ((m + 0.3 * look.camera[n]!) * fps) / FULL_MOVEMENT)));
  // At a picture change nothing moved.
  for (const { from, to } of changes) for (let n = from; n <= min(look.frames - 1, to); n++) moved[n] = moved[max(0, from - 1)] ?? 0;
  const movementCurve = curveOf(moved, fps, curveRate, 'largest');
  const brightnessCurve = curveOf(look.brightness, fps, curveRate, 'mean');
  const sharpnessCurve = curveOf(look.sharpness, fps, curveRate, 'mean');
  return {
    version: 1,
    frames: look.frames,
    curveRate,
    movementCurve,
    brightnessCurve,
    sharpnessCurve,
    movement: mean(movementCurve) / 255,
    brightness: mean(brightnessCurve) / 255,
    sharpness: mean(sharpnessCurve) / 255,
    colours: look.frames > 0 ? mainColours(look) : [],
    hits: proposeHits(look, fps, transients, changes),
    changes,
  };
}

/**
 * What a stretch of a clip is like. Clip seconds.
 * @param from, to clip seconds, held to the clip's ends
 * @returns each 0 to 1
 */
export function characterOf(summary: ClipSummary, from: number, to: number): Character {
  const part = (curve: readonly number[]): number => {
    const a = max(0, min(curve.length - 1, floor(from * summary.curveRate)));
    return mean(curve.slice(a, max(a + 1, Math.ceil(to * summary.curveRate)))) / 255;
  };
  return { movement: part(summary.movementCurve), brightness: part(summary.brightnessCurve), sharpness: part(summary.sharpnessCurve) };
}

/**
 * Stretches of a clip between its picture changes, clip seconds; those shorter than `least` are left out.
 * @param fps of the clip, Hz
 * @param least seconds
 * @returns one for a clip without changes; none where all are too short
 */
export function stretchesByChanges(summary: ClipSummary, fps: number, least = 0.4): { in: number; out: number }[] {
  const ends = [...summary.changes.map((c) => c.from), summary.frames];
  const starts = [0, ...summary.changes.map((c) => c.to)];
  return starts.map((s, i) => ({ in: s / fps, out: ends[i]! / fps })).filter((s) => s.out - s.in >= least);
}

/** Movement that adds up to this makes another picture of it. */
const DIFFERENT = 0.7;

/**
 * Moments of a clip (seconds) from each of which the picture is clearly another: after picture changes, and where enough has moved.
 * @param fps of the clip, Hz
 * @returns rising; none for a still
 */
export function differentMoments(summary: ClipSummary, fps: number): number[] {
  const changes = summary.changes.map((c) => c.to / fps);
  const moments: number[] = [];
  let moved = 0;
  let next = 0;
  summary.movementCurve.forEach((value, i) => {
    const at = (i + 1) / summary.curveRate;
    moved += value / 255 / summary.curveRate;
    while (next < changes.length && changes[next]! <= at) {
      moments.push(changes[next++]!);
      moved = 0;
    }
    if (moved < DIFFERENT) return;
    moments.push(at);
    moved = 0;
  });
  return moments;
}

/**
 * Stretches around a clip's proposed hits, each from a little before its hit, none over another; clip seconds.
 * @param fps of the clip, Hz
 * @param weakest of hits that count, 0 to 1
 * @returns in the order of time; none where it has no hits so strong
 */
export function stretchesByHits(
  summary: ClipSummary,
  fps: number,
  { before = 0.5, after = 1.5, most = 12, weakest = 0.25 } = {},
): { in: number; out: number; hit: number }[] {
  const length = summary.frames / fps;
  const frame = (seconds: number): number => round(seconds * fps) / fps;
  const chosen = summary.hits
    .filter((h) => h.strength >= weakest)
    .slice(0, most)
    .map((h) => h.frame / fps)
    .sort((a, b) => a - b);
  const cuts = [0, ...summary.changes.map((c) => c.to / fps)];
  const ends = [...summary.changes.map((c) => c.from / fps), length];
  return chosen.map((hit, i) => {
    // Not across a picture change, and at most half way to the next hit.
    const shotStart = cuts.findLast((c) => c <= hit + 1e-6) ?? 0;
    const shotEnd = ends.find((e) => e > hit + 1e-6) ?? length;
    const from = max(hit - before, shotStart, i > 0 ? (chosen[i - 1]! + hit) / 2 : 0);
    const to = min(hit + after, shotEnd, i + 1 < chosen.length ? (chosen[i + 1]! + hit) / 2 : length);
    return { in: frame(from), out: frame(to), hit };
  });
}
