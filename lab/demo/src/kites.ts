import type { SKRSContext2D } from '@napi-rs/canvas';
import { blend, clear } from './palette.ts';

export interface Point {
  readonly x: number;
  readonly y: number;
}
/** Where a kite is at a time in seconds. */
export type Flight = (time: number) => Point;

const COLOURS = ['#d9542f', '#e9b949', '#1f665c', '#7a4e86', '#25506b', '#c2452f', '#f2994a', '#4f8f6b'];

/** One of the festival's cloth colours. */
export function cloth(n: number): string {
  return COLOURS[((n % COLOURS.length) + COLOURS.length) % COLOURS.length]!;
}

/** The line from a hand to a kite: straight when taut (1), hanging when slack (0). */
export function line(c: SKRSContext2D, from: Point, to: Point, taut: number, width: number): void {
  const sag = (1 - taut) * Math.hypot(to.x - from.x, to.y - from.y) * 0.3;
  c.strokeStyle = 'rgba(32,30,42,0.72)';
  c.lineWidth = width;
  c.beginPath();
  c.moveTo(from.x, from.y);
  c.quadraticCurveTo((from.x + to.x) / 2, (from.y + to.y) / 2 + sag, to.x, to.y);
  c.stroke();
}

/** A tail that follows where the kite has been, with ribbons along it. */
export function tail(c: SKRSContext2D, flight: Flight, time: number, size: number, colour: string, wind: Point, bows = 7, whip = 0): void {
  const points: Point[] = [];
  const steps = 34;
  const origin = flight(time);
  for (let i = 0; i <= steps; i++) {
    const age = i * 0.028;
    const was = flight(time - age);
    const reach = i / steps;
    const wave = Math.sin(time * 6.5 - i * 0.42) * size * (0.12 + 0.5 * whip) * reach * 1.4;
    points.push({
      x: origin.x + (was.x - origin.x) * 0.8 + wind.x * size * reach * 2.2 + wave * 0.7,
      y: origin.y + size * 0.95 + (was.y - origin.y) * 0.8 + (1.9 + wind.y) * size * reach + wave * 0.5,
    });
  }
  c.strokeStyle = colour;
  c.lineCap = 'round';
  c.lineJoin = 'round';
  for (let i = 1; i < points.length; i++) {
    c.lineWidth = Math.max(1, size * 0.075 * (1 - i / points.length) + size * 0.012);
    c.beginPath();
    c.moveTo(points[i - 1]!.x, points[i - 1]!.y);
    c.lineTo(points[i]!.x, points[i]!.y);
    c.stroke();
  }
  for (let b = 1; b <= bows; b++) {
    const at = Math.round((b / (bows + 0.5)) * steps);
    const p = points[at]!;
    const q = points[Math.max(0, at - 1)]!;
    const angle = Math.atan2(p.y - q.y, p.x - q.x);
    const r = size * 0.13 * (1.15 - b / (bows * 1.6));
    c.save();
    c.translate(p.x, p.y);
    c.rotate(angle + Math.sin(time * 7 + b) * 0.4);
    c.fillStyle = b % 2 ? '#fbf3df' : colour;
    for (const side of [-1, 1]) {
      c.beginPath();
      c.moveTo(0, 0);
      c.lineTo(r * 0.7, side * r * 1.5);
      c.lineTo(-r * 0.7, side * r * 1.5);
      c.fill();
    }
    c.restore();
  }
}

/** A diamond kite with a cross of spars and lit and shaded halves. */
export function diamond(c: SKRSContext2D, at: Point, size: number, angle: number, colour: string): void {
  c.save();
  c.translate(at.x, at.y);
  c.rotate(angle);
  const corners: readonly Point[] = [
    { x: 0, y: -size * 0.85 },
    { x: size * 0.68, y: -size * 0.12 },
    { x: 0, y: size },
    { x: -size * 0.68, y: -size * 0.12 },
  ];
  const tones = [blend(colour, '#ffffff', 0.26), colour, blend(colour, '#1b2733', 0.22), blend(colour, '#ffffff', 0.12)];
  corners.forEach((p, i) => {
    const q = corners[(i + 1) % 4]!;
    c.fillStyle = tones[i]!;
    c.beginPath();
    c.moveTo(0, -size * 0.12);
    c.lineTo(p.x, p.y);
    c.lineTo(q.x, q.y);
    c.fill();
  });
  c.strokeStyle = clear('#1b2733', 0.55);
  c.lineWidth = Math.max(1, size * 0.03);
  c.beginPath();
  c.moveTo(corners[0]!.x, corners[0]!.y);
  c.lineTo(corners[2]!.x, corners[2]!.y);
  c.moveTo(corners[1]!.x, corners[1]!.y);
  c.lineTo(corners[3]!.x, corners[3]!.y);
  c.stroke();
  c.restore();
}

/** A wide delta kite with a keel. */
export function delta(c: SKRSContext2D, at: Point, size: number, angle: number, colour: string): void {
  c.save();
  c.translate(at.x, at.y);
  c.rotate(angle);
  const half = (side: number, tone: string): void => {
    c.fillStyle = tone;
    c.beginPath();
    c.moveTo(0, -size * 0.7);
    c.quadraticCurveTo(side * size * 0.75, -size * 0.2, side * size * 1.35, size * 0.55);
    c.quadraticCurveTo(side * size * 0.6, size * 0.3, 0, size * 0.5);
    c.fill();
    c.fillStyle = '#fbf3df';
    c.beginPath();
    c.moveTo(side * size * 0.52, -size * 0.05);
    c.lineTo(side * size * 0.9, size * 0.36);
    c.lineTo(side * size * 0.55, size * 0.34);
    c.fill();
  };
  half(-1, blend(colour, '#ffffff', 0.18));
  half(1, blend(colour, '#1b2733', 0.14));
  c.fillStyle = blend(colour, '#1b2733', 0.35);
  c.beginPath();
  c.moveTo(0, -size * 0.4);
  c.lineTo(size * 0.09, size * 0.72);
  c.lineTo(-size * 0.09, size * 0.72);
  c.fill();
  c.restore();
}

/** A box kite turning about its upright axis. */
export function box(c: SKRSContext2D, at: Point, size: number, angle: number, turn: number, colour: string): void {
  c.save();
  c.translate(at.x, at.y);
  c.rotate(angle);
  const corners = [0, 1, 2, 3].map((k) => ({ x: Math.cos(turn + (k * Math.PI) / 2) * size * 0.62, z: Math.sin(turn + (k * Math.PI) / 2) }));
  const faces = corners.map((p, k) => ({ p, q: corners[(k + 1) % 4]!, z: p.z + corners[(k + 1) % 4]!.z })).sort((a, b) => a.z - b.z);
  for (const cell of [-1, 1]) {
    const top = cell < 0 ? -size : size * 0.3;
    const bottom = cell < 0 ? -size * 0.3 : size;
    for (const { p, q, z } of faces) {
      c.fillStyle = blend(
        blend(colour, cell < 0 ? '#ffffff' : '#f3e0b0', cell < 0 ? 0.05 : 0.55),
        z > 0 ? '#ffffff' : '#1b2733',
        z > 0 ? 0.15 : 0.35,
      );
      c.beginPath();
      c.moveTo(p.x, top + p.z * size * 0.12);
      c.lineTo(q.x, top + q.z * size * 0.12);
      c.lineTo(q.x, bottom + q.z * size * 0.12);
      c.lineTo(p.x, bottom + p.z * size * 0.12);
      c.fill();
    }
  }
  c.strokeStyle = clear('#1b2733', 0.7);
  c.lineWidth = Math.max(1, size * 0.045);
  for (const p of corners) {
    c.beginPath();
    c.moveTo(p.x, -size * 1.08 + p.z * size * 0.12);
    c.lineTo(p.x, size * 1.08 + p.z * size * 0.12);
    c.stroke();
  }
  c.restore();
}
