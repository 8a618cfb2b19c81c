import type { SKRSContext2D } from '@napi-rs/canvas';
import { blend, clear, type Light } from './palette.ts';

/** Where the hill is seen from. */
export interface View {
  readonly width: number;
  readonly height: number;
  readonly light: Light;
  /** how far the camera has moved to the right, screen widths; near things move more than far ones */
  readonly pan: number;
  /** height of the horizon, 0 top to 1 bottom */
  readonly horizon: number;
  readonly seed: number;
  /** seconds, for the clouds' drift and the grass */
  readonly time: number;
  /** cloud speed, 1 is a breeze */
  readonly wind: number;
}

/** A number between 0 and 1 that belongs to a place in a scene. */
export function noise(seed: number, n: number): number {
  const x = Math.sin(seed * 127.1 + n * 311.7) * 43758.5453;
  return x - Math.floor(x);
}

/** Height of a hill's outline at x (screen widths), about -1 to 1. */
function outline(seed: number, x: number): number {
  return 0.55 * Math.sin(x * 2.1 + seed * 1.7) + 0.3 * Math.sin(x * 4.7 + seed * 3.1) + 0.12 * Math.sin(x * 11.3 + seed * 5.3);
}

function cloud(c: SKRSContext2D, x: number, y: number, size: number, view: View, seed: number): void {
  const puffs = 6 + Math.floor(noise(seed, 9) * 4);
  for (let i = 0; i < puffs; i++) {
    const along = i / (puffs - 1) - 0.5;
    const r = size * (0.34 - 0.42 * along * along) * (0.75 + 0.5 * noise(seed, i));
    const px = x + along * size * 1.9;
    const py = y - r * 0.35 - size * 0.1 * noise(seed, i + 30);
    const g = c.createRadialGradient(px, py - r * 0.3, r * 0.1, px, py, r);
    g.addColorStop(0, clear(view.light.cloud, 0.85));
    g.addColorStop(0.7, clear(view.light.cloud, 0.5));
    g.addColorStop(1, clear(view.light.cloud, 0));
    c.fillStyle = g;
    c.beginPath();
    c.ellipse(px, py, r * 1.25, r, 0, 0, Math.PI * 2);
    c.fill();
  }
}

/** Sky, sun and drifting clouds. */
export function sky(c: SKRSContext2D, view: View, sunX = 0.78, sunY = 0.24, glow = 1): void {
  const { width: w, height: h, light } = view;
  const g = c.createLinearGradient(0, 0, 0, h * view.horizon * 1.15);
  g.addColorStop(0, light.skyTop);
  g.addColorStop(0.55, blend(light.skyTop, light.skyLow, 0.55));
  g.addColorStop(1, light.skyLow);
  c.fillStyle = g;
  c.fillRect(0, 0, w, h);
  const r = Math.min(w, h) * 0.6;
  const s = c.createRadialGradient(w * sunX, h * sunY, 0, w * sunX, h * sunY, r);
  s.addColorStop(0, clear(light.sun, Math.min(1, 0.95 * glow)));
  s.addColorStop(0.09, clear(light.sun, 0.85 * glow));
  s.addColorStop(0.13, clear(light.sun, 0.32 * glow));
  s.addColorStop(1, clear(light.sun, 0));
  c.fillStyle = s;
  c.fillRect(0, 0, w, h);
  for (let i = 0; i < 9; i++) {
    const depth = 0.35 + 0.65 * noise(view.seed, i + 50);
    const speed = 0.012 * depth * view.wind;
    const span = 1.7;
    const x = (((noise(view.seed, i) * span + view.time * speed - view.pan * 0.12 * depth) % span) + span) % span;
    cloud(c, (x - 0.35) * w, h * (0.06 + 0.5 * view.horizon * noise(view.seed, i + 20)), h * 0.2 * depth, view, view.seed + i * 3.7);
  }
}

/** Three far hills and the near one, each with its own parallax; ends with the grass people stand on. */
export function hills(c: SKRSContext2D, view: View): void {
  const { width: w, height: h, light } = view;
  const layers = 4;
  for (let layer = 0; layer < layers; layer++) {
    const depth = layer / (layers - 1);
    const base = h * (view.horizon + depth * depth * (0.98 - view.horizon) * 0.62);
    const rise = h * (0.09 - 0.035 * depth);
    const shift = view.pan * (0.15 + 0.85 * depth * depth);
    const y = (px: number): number => base - rise * outline(view.seed + layer * 2.3, (px / w + shift) * (1.5 - 0.5 * depth));
    const top = blend(light.far, layer === layers - 1 ? light.grass : light.near, depth);
    const g = c.createLinearGradient(0, base - rise, 0, h);
    g.addColorStop(0, blend(top, light.skyLow, 0.28 * (1 - depth)));
    g.addColorStop(1, layer === layers - 1 ? light.shade : top);
    c.fillStyle = g;
    c.beginPath();
    c.moveTo(0, h);
    for (let px = 0; px <= w; px += 8) c.lineTo(px, y(px));
    c.lineTo(w, y(w));
    c.lineTo(w, h);
    c.fill();
    if (layer === 1 || layer === 2) trees(c, view, y, shift, layer);
  }
  grass(c, view);
}

function trees(c: SKRSContext2D, view: View, y: (px: number) => number, shift: number, layer: number): void {
  const { width: w, height: h, light } = view;
  c.fillStyle = clear(light.shade, layer === 1 ? 0.35 : 0.6);
  for (let i = 0; i < 26; i++) {
    const at = noise(view.seed + layer, i) * 3;
    const px = (((((at - shift) % 3) + 3) % 3) - 0.5) * w;
    if (px < -30 || px > w + 30) continue;
    const size = h * (0.01 + 0.012 * noise(view.seed + layer, i + 70)) * layer;
    c.beginPath();
    c.ellipse(px, y(px) - size * 0.8, size * 0.75, size, 0, 0, Math.PI * 2);
    c.fill();
  }
}

function grass(c: SKRSContext2D, view: View): void {
  const { width: w, height: h, light } = view;
  c.lineWidth = Math.max(1, h * 0.0022);
  c.lineCap = 'round';
  for (let i = 0; i < 190; i++) {
    const depth = noise(view.seed, i + 400);
    const span = 1.2;
    const px = (((((noise(view.seed, i + 200) - view.pan * (0.7 + 0.6 * depth)) % span) + span) % span) - 0.1) * w;
    const py = h * (0.9 + 0.12 * depth);
    const tall = h * (0.02 + 0.035 * depth) * (0.6 + 0.6 * noise(view.seed, i + 800));
    const lean = tall * (0.35 + 0.35 * Math.sin(view.time * 3.2 + px * 0.02)) * view.wind;
    c.strokeStyle = clear(blend(light.grass, i % 3 === 0 ? light.sun : light.shade, 0.35), 0.75);
    c.beginPath();
    c.moveTo(px, py);
    c.quadraticCurveTo(px + lean * 0.2, py - tall * 0.6, px + lean, py - tall);
    c.stroke();
  }
}

/** Darker corners, and a breath of warm light over all. */
export function finish(c: SKRSContext2D, view: View): void {
  const { width: w, height: h } = view;
  const g = c.createRadialGradient(w / 2, h * 0.45, Math.min(w, h) * 0.45, w / 2, h / 2, Math.hypot(w, h) * 0.62);
  g.addColorStop(0, 'rgba(20,16,30,0)');
  g.addColorStop(1, 'rgba(20,16,30,0.28)');
  c.fillStyle = g;
  c.fillRect(0, 0, w, h);
}

/** The sky and the hills before it. */
export function scene(c: SKRSContext2D, v: View, sunX?: number, sunY?: number, glow?: number): void {
  sky(c, v, sunX, sunY, glow);
  hills(c, v);
}
