import type { PictureChange } from '../footage/picture-changes.ts';
import { lookBytes } from '../footage/small-frame.ts';

const { exp, floor, imul, max, min, sin } = Math;

/** Numbers from 0 to 1 by a hash of whole numbers, the same everywhere. */
export function hashed(a: number, b: number, c: number): number {
  let h = (a * 374761393 + b * 668265263 + c * 2147483647) | 0;
  h = imul(h ^ (h >>> 13), 1274126177);
  h = imul(h ^ (h >>> 16), 2246822519);
  return ((h ^ (h >>> 13)) >>> 0) / 4294967296;
}

/** Smooth noise with detail about so many pixels wide, 0 to 1. */
function texture(x: number, y: number, seed: number, grain: number): number {
  const u = x / grain;
  const v = y / grain;
  const i = floor(u);
  const j = floor(v);
  const fu = u - i;
  const fv = v - j;
  const top = hashed(i, j, seed) * (1 - fu) + hashed(i + 1, j, seed) * fu;
  const foot = hashed(i, j + 1, seed) * (1 - fu) + hashed(i + 1, j + 1, seed) * fu;
  return top * (1 - fv) + foot * fv;
}

/** One row of it, from `x` on. Its grains are hashed once, not for each pixel. */
function textureRow(row: Float64Array, x: number, y: number, seed: number, grain: number): void {
  const v = y / grain;
  const j = floor(v);
  const fv = v - j;
  const column = (i: number): number => hashed(i, j, seed) * (1 - fv) + hashed(i, j + 1, seed) * fv;
  let known = floor(x / grain);
  let [left, right] = [column(known), column(known + 1)];
  for (let k = 0; k < row.length; k++) {
    const u = (x + k) / grain;
    const i = floor(u);
    if (i !== known) {
      left = i === known + 1 ? right : column(i);
      right = column(i + 1);
      known = i;
    }
    row[k] = left + (right - left) * (u - i);
  }
}

/** A made scene: what lies behind, and things that move over it. Times are frames, places are pixels. */
export interface Scene {
  readonly seed: number;
  /** mean luma and colours, 0 to 255 */
  readonly ground: readonly [number, number, number];
  readonly pan?: (frame: number) => readonly [number, number];
  readonly things?: readonly { readonly size: number; readonly at: (frame: number) => readonly [number, number] }[];
  /** what light adds, levels */
  readonly light?: (frame: number) => number;
  /** of the camera, levels */
  readonly noise?: number;
}

export const SCENE_SIZE = { width: 128, height: 72 };

/** One small picture of a scene, planar 4:2:0. Tests paint thousands of them, so no list is made for a pixel. */
export function paintScene(scene: Scene, frame: number): Uint8Array {
  const { width, height } = SCENE_SIZE;
  const out = new Uint8Array(lookBytes(SCENE_SIZE));
  const [panX, panY] = scene.pan?.(frame) ?? [0, 0];
  const light = scene.light?.(frame) ?? 0;
  const noise = scene.noise ?? 0;
  const things = (scene.things ?? []).map(({ size, at }, k) => ({ size, at: at(frame), k }));
  const quarter = (width * height) / 4;
  const [coarse, fine, lumas] = [new Float64Array(width), new Float64Array(width), new Float64Array(width)];
  const [us, vs] = [new Float64Array(width), new Float64Array(width)];
  for (let y = 0; y < height; y++) {
    textureRow(coarse, panX, y + panY, scene.seed, 9);
    textureRow(fine, panX, y + panY, scene.seed + 7, 4);
    for (let x = 0; x < width; x++) lumas[x] = scene.ground[0] + 70 * (coarse[x]! - 0.5) + 30 * (fine[x]! - 0.5);
    us.fill(scene.ground[1]);
    vs.fill(scene.ground[2]);
    for (const { size, at, k } of things) {
      const dy = y - at[1];
      for (let x = max(0, floor(at[0] - size)); x < width && x <= at[0] + size; x++) {
        const dx = x - at[0];
        if (dx * dx + dy * dy > size * size) continue;
        lumas[x] = 190 - 40 * (k % 3) + 60 * (texture(dx + 500, dy + 500, scene.seed + 31 + k, 4) - 0.5);
        us[x] = 100 + 20 * k;
        vs[x] = 170 - 25 * k;
      }
    }
    for (let x = 0; x < width; x++) {
      const luma = lumas[x]! + light + noise * (hashed(x, y * 977 + frame, scene.seed) - 0.5);
      out[y * width + x] = max(16, min(235, luma));
    }
    if (y % 2 === 1) continue;
    for (let x = 0; x < width; x += 2) {
      const at = width * height + (y >> 1) * (width / 2) + (x >> 1);
      out[at] = us[x]!;
      out[at + quarter] = vs[x]!;
    }
  }
  return out;
}

/** Two pictures, one over the other: `part` of the second. */
export function blend(a: Uint8Array, b: Uint8Array, part: number): Uint8Array {
  const out = new Uint8Array(a.length);
  for (let i = 0; i < out.length; i++) out[i] = a[i]! + part * (b[i]! - a[i]!);
  return out;
}

/** A picture of nothing but black. */
export function black(): Uint8Array {
  const out = new Uint8Array(lookBytes(SCENE_SIZE)).fill(128);
  out.fill(16, 0, SCENE_SIZE.width * SCENE_SIZE.height);
  return out;
}

/** An edited film: shots of many kinds, joined by cuts, dissolves and fades, with flashes and fast pans inside them. */
export function editedFilm(seed: number): { pictures: Uint8Array[]; changes: PictureChange[] } {
  const pictures: Uint8Array[] = [];
  const changes: PictureChange[] = [];
  const chance = (k: number): number => hashed(seed, k, 5);
  let shot = 0;
  const nextScene = (): { scene: Scene; frames: number } => {
    const k = 100 * ++shot;
    const frames = 26 + floor(60 * chance(k));
    const fast = chance(k + 1) < 0.25;
    const flash = chance(k + 2) < 0.3 ? 6 + floor((frames - 20) * chance(k + 3)) : -1;
    const dies = chance(k + 4) < 0.5;
    return {
      frames,
      scene: {
        seed: seed * 1000 + shot,
        ground: [50 + 130 * chance(k + 5), 90 + 70 * chance(k + 6), 90 + 70 * chance(k + 7)],
        // A whip of the camera: far, in a third of a second.
        pan: (n) => [fast ? 160 / (1 + exp(-(n - frames / 2) / 1.5)) : 0.6 * n, 0.2 * n],
        things: [{ size: 9, at: (n) => [20 + 1.2 * n, 36 + 10 * sin(n / 6)] }],
        light: (n) => (flash < 0 || n < flash ? 0 : dies ? 110 * exp(-(n - flash) / 2) : n < flash + 2 ? 120 : 0),
        noise: 6,
      },
    };
  };
  let { scene, frames } = nextScene();
  let used = 0;
  while (pictures.length < 900) {
    for (let n = used; n < frames; n++) pictures.push(paintScene(scene, n));
    const next = nextScene();
    const kind = chance(1000 + shot);
    if (kind < 0.6) {
      changes.push({ kind: 'cut', from: pictures.length, to: pictures.length });
      used = 0;
    } else {
      const span = 10 + floor(30 * chance(2000 + shot));
      const from = pictures.length;
      const fade = kind > 0.85;
      for (let i = 1; i < span; i++) {
        const old = paintScene(scene, frames + i);
        const fresh = paintScene(next.scene, i - 1);
        const part = i / span;
        if (!fade) pictures.push(blend(old, fresh, part));
        else pictures.push(part < 0.5 ? blend(old, black(), 2 * part) : blend(black(), fresh, 2 * part - 1));
      }
      changes.push({ kind: fade ? 'fade' : 'dissolve', from, to: pictures.length });
      used = span - 1;
    }
    ({ scene, frames } = next);
  }
  return { pictures, changes: changes.slice(0, -1) };
}
