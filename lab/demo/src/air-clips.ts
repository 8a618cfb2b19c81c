import { WIDE, type ClipScript } from './clip-script.ts';
import { box, cloth, delta, diamond, line, tail, type Flight } from './kites.ts';
import { finish, noise, scene } from './landscape.ts';
import { after, heading, ring } from './motion.ts';
import { blend, clear, lightAt } from './palette.ts';
import { person, STANDING } from './people.ts';

/** Clips of kites in the air. */
export const AIR_CLIPS: readonly ClipScript[] = [
  {
    name: 'red-delta',
    ...WIDE,
    length: 8,
    actions: [3],
    paint(c, t, view) {
      const v = view({ light: lightAt(0.3), seed: 8, horizon: 0.74, pan: 0.05 * Math.sin(t * 0.5) });
      scene(c, v, 0.84, 0.2);
      const flight: Flight = (x) =>
        x < 3
          ? { x: 190 + x * 245, y: 330 - 40 * Math.sin(x * 1.4) }
          : { x: 925 - 250 * Math.sin((x - 3) * 1.9), y: 330 - 200 + 200 * Math.cos((x - 3) * 1.9) - 34 };
      const from = { x: 610, y: 760 };
      line(c, from, flight(t), 0.97, 2);
      tail(c, flight, t, 90, '#f3e0b0', { x: -0.4, y: -0.7 }, 5);
      delta(c, flight(t), 92, heading(flight, t) * 1.3, cloth(0));
      finish(c, v);
    },
  },
  {
    name: 'box-kite',
    ...WIDE,
    length: 9,
    actions: [2.6],
    sound: 'twang',
    paint(c, t, view) {
      const v = view({ light: lightAt(0.2), seed: 21, horizon: 0.7 });
      scene(c, v, 0.16, 0.22);
      const taut = after(t, 2.45, 0.15);
      const flight: Flight = (x) => ({
        x: 860 + 30 * Math.sin(x * 0.9) + 26 * ring(x, 2.6, 5, 3.5),
        y: 420 - 190 * after(x, 0, 2.6) - 12 * Math.sin(x * 1.3) + 22 * ring(x, 2.6, 6, 4),
      });
      const hand = person(c, { x: 260, y: 690 }, 240, { ...STANDING, lean: -0.25 * taut, rightArm: 2.0, leftArm: 1.7 }, 6);
      line(c, hand, flight(t), 0.35 + 0.65 * taut, 3);
      box(c, flight(t), 82, 0.12 * Math.sin(t * 1.2) + 0.25 * ring(t, 2.6, 4, 3), t * 0.8, cloth(4));
      finish(c, v);
    },
  },
  {
    name: 'tail-close',
    ...WIDE,
    length: 7.5,
    actions: [3.1],
    paint(c, t, view) {
      const v = view({ light: lightAt(0.62), seed: 26, horizon: 0.9, wind: 2 });
      scene(c, v, 0.75, 0.3);
      const flight: Flight = (x) => ({
        x: 520 + 120 * Math.sin(x * 1.3) + 240 * after(x, 3.1, 0.3) - 240 * after(x, 3.6, 2),
        y: 235 + 50 * Math.sin(x * 2.1),
      });
      const whip = Math.exp(-Math.max(0, t - 3.1) * 1.4) * (t > 3.1 ? 1 : 0);
      tail(c, flight, t, 165, cloth(1), { x: -0.7, y: -0.9 }, 9, whip);
      diamond(c, flight(t), 165, heading(flight, t), cloth(5));
      finish(c, v);
    },
  },
  {
    name: 'dive',
    ...WIDE,
    length: 6,
    actions: [2],
    paint(c, t, view) {
      const v = view({ light: lightAt(0.35), seed: 52, horizon: 0.64, pan: 0.03 * t });
      scene(c, v, 0.9, 0.16);
      const flight: Flight = (x) =>
        x < 2
          ? { x: 300 + 130 * x, y: 90 + 105 * x * x }
          : { x: 560 + 240 * (x - 2), y: 510 - 420 * after(x, 2, 1.1) + 20 * Math.sin((x - 2) * 2.2) };
      line(c, { x: 180, y: 770 }, flight(t), 0.95, 2);
      tail(c, flight, t, 70, cloth(6), { x: -0.6, y: -0.6 }, 6);
      const turn = t < 2 ? 2.4 - 0.3 * Math.exp(-t) : 2.4 * (1 - after(t, 2, 0.25));
      diamond(c, flight(t), 74, turn, cloth(3));
      finish(c, v);
    },
  },
  {
    name: 'dusk-wide',
    ...WIDE,
    length: 10,
    actions: [4],
    paint(c, t, view) {
      const v = view({ light: lightAt(0.82 + 0.018 * t), seed: 71, horizon: 0.6, pan: t * 0.02, wind: 0.6 });
      scene(c, v, 0.3, 0.52, 0.9);
      for (let k = 0; k < 9; k++) {
        const lit = after(t, 4, 0.12);
        const flight: Flight = (x) => ({
          x: 90 + k * 142 + 26 * Math.sin(x * 0.8 + k),
          y: 170 + 120 * noise(8, k) + 16 * Math.sin(x + k * 1.7),
        });
        const at = flight(t);
        line(c, { x: at.x - 60, y: 690 }, at, 0.9, 1);
        tail(c, flight, t, 34, blend(cloth(k), '#20233a', 0.35 * (1 - lit)), { x: -0.8, y: -0.3 }, 4);
        diamond(c, at, 36, 0.15 * Math.sin(t + k), blend(cloth(k), '#20233a', 0.45 * (1 - lit)));
        if (lit > 0) {
          const g = c.createRadialGradient(at.x, at.y, 0, at.x, at.y, 90);
          g.addColorStop(0, clear('#fff0b8', 0.75 * lit));
          g.addColorStop(1, clear('#ffb45e', 0));
          c.fillStyle = g;
          c.fillRect(at.x - 90, at.y - 90, 180, 180);
        }
      }
      for (let k = 0; k < 8; k++)
        person(c, { x: 120 + k * 150 + 30 * noise(3, k), y: 694 }, 92, { ...STANDING, rightArm: 2.2 + 0.2 * Math.sin(t + k) }, k, 0.72);
      finish(c, v);
    },
  },
  {
    name: 'cloud-race',
    ...WIDE,
    length: 7,
    actions: [3],
    paint(c, t, view) {
      const sun = after(t, 3, 0.35);
      const v = view({ light: lightAt(0.25 + 0.12 * sun), seed: 77, horizon: 0.78, wind: 9 });
      scene(c, v, 0.55, 0.34, 0.25 + 0.9 * sun);
      if (sun < 1) {
        c.fillStyle = clear('#5c6873', 0.3 * (1 - sun));
        c.fillRect(0, 0, v.width, v.height);
      }
      const flight: Flight = (x) => ({ x: 330 + 60 * Math.sin(x * 0.7), y: 250 + 30 * Math.sin(x * 1.5) });
      tail(c, flight, t, 46, cloth(4), { x: -1.2, y: -0.6 }, 5);
      delta(c, flight(t), 56, -0.15 + 0.1 * Math.sin(t), cloth(6));
      finish(c, v);
    },
  },
  {
    name: 'two-cross',
    ...WIDE,
    fps: 25,
    length: 6,
    actions: [2],
    paint(c, t, view) {
      const v = view({ light: lightAt(0.4), seed: 83, horizon: 0.7 });
      scene(c, v, 0.5, 0.2);
      const left: Flight = (x) => ({
        x: 640 - 330 * Math.cos(Math.min(Math.PI, (x / 4) * Math.PI)),
        y: 300 - 60 * Math.sin(x * 1.6) - 40 * ring(x, 2, 3, 2),
      });
      const right: Flight = (x) => ({
        x: 640 + 330 * Math.cos(Math.min(Math.PI, (x / 4) * Math.PI)),
        y: 250 + 60 * Math.sin(x * 1.6) + 40 * ring(x, 2, 3, 2),
      });
      line(c, { x: 380, y: 760 }, left(t), 0.98, 2);
      line(c, { x: 900, y: 760 }, right(t), 0.98, 2);
      tail(c, left, t, 68, cloth(2), { x: 0.2, y: -0.3 });
      tail(c, right, t, 68, cloth(0), { x: -0.2, y: -0.3 });
      diamond(c, left(t), 70, heading(left, t), cloth(4));
      diamond(c, right(t), 70, heading(right, t), cloth(1));
      finish(c, v);
    },
  },
  {
    name: 'snap',
    ...WIDE,
    length: 2,
    actions: [1],
    sound: 'twang',
    paint(c, t, view) {
      const v = view({ light: lightAt(0.48), seed: 101, horizon: 0.8, wind: 2 });
      scene(c, v, 0.7, 0.25);
      const loose = after(t, 1, 0.5);
      const flight: Flight = (x) => ({
        x: 780 + 420 * Math.max(0, x - 1) ** 1.4 + 4 * Math.sin(x * 40) * (x < 1 ? 1 : 0),
        y: 260 - 150 * after(x, 1, 0.8),
      });
      if (t < 1) line(c, { x: 140, y: 760 }, flight(t), 1, 3);
      else line(c, { x: 140, y: 760 }, { x: 470 - 260 * loose, y: 500 + 200 * loose }, 1 - loose, 3);
      tail(c, flight, t, 76, cloth(3), { x: -0.9, y: -0.3 }, 6, loose);
      diamond(c, flight(t), 80, 0.4 + 2.2 * loose, cloth(2));
      finish(c, v);
    },
  },
];
