import type { SKRSContext2D } from '@napi-rs/canvas';
import { box, cloth, delta, diamond, line, tail, type Flight } from './kites.ts';
import { finish, hills, sky, type View } from './landscape.ts';
import { lightAt } from './palette.ts';
import { person, STANDING } from './people.ts';

/** One demo photo; `turned` is stored lying on its side with an EXIF flag that says so. */
export interface PhotoScript {
  readonly file: string;
  readonly width: number;
  readonly height: number;
  readonly turned?: boolean;
  readonly paint: (c: SKRSContext2D, view: (part: Partial<View>) => View) => void;
}

const still =
  (x: number, y: number): Flight =>
  (t) => ({ x: x + 18 * Math.sin(t * 2.2), y: y + 12 * Math.sin(t * 3) });

export const PHOTOS: readonly PhotoScript[] = [
  {
    file: 'morning-hill.jpg',
    width: 1800,
    height: 1200,
    paint(c, view) {
      const v = view({ light: lightAt(0), seed: 111, horizon: 0.55 });
      sky(c, v, 0.3, 0.4);
      hills(c, v);
      for (let k = 0; k < 4; k++) person(c, { x: 300 + k * 380, y: 1130 }, 230, { ...STANDING, rightArm: 2.4 - 0.3 * k }, k + 3);
      finish(c, v);
    },
  },
  {
    file: 'ribbon-box.jpg',
    width: 1800,
    height: 1200,
    paint(c, view) {
      const v = view({ light: lightAt(0.4), seed: 117, horizon: 0.82 });
      sky(c, v, 0.82, 0.2);
      hills(c, v);
      line(c, { x: 200, y: 1250 }, { x: 1050, y: 480 }, 0.95, 4);
      box(c, { x: 1050, y: 480 }, 210, 0.25, 0.7, cloth(7));
      finish(c, v);
    },
  },
  {
    file: 'three-deltas.png',
    width: 1500,
    height: 1000,
    paint(c, view) {
      const v = view({ light: lightAt(0.6), seed: 123, horizon: 0.78 });
      sky(c, v, 0.5, 0.3);
      hills(c, v);
      for (let k = 0; k < 3; k++) {
        tail(c, still(380 + k * 380, 330 + 90 * (k % 2)), 3 + k, 70, cloth(k + 1), { x: -0.8, y: -0.5 });
        delta(c, { x: 380 + k * 380, y: 330 + 90 * (k % 2) }, 110, -0.2 + 0.2 * k, cloth(k * 2));
      }
      finish(c, v);
    },
  },
  {
    file: 'grandfather.jpg',
    width: 1200,
    height: 1800,
    paint(c, view) {
      const v = view({ light: lightAt(0.7), seed: 131, horizon: 0.6 });
      sky(c, v, 0.7, 0.3);
      hills(c, v);
      const hand = person(c, { x: 460, y: 1650 }, 720, { ...STANDING, rightArm: 2.3, lean: -0.08 }, 3);
      line(c, hand, { x: 860, y: 380 }, 0.9, 4);
      tail(c, still(860, 380), 2, 90, cloth(2), { x: -0.9, y: -0.2 });
      diamond(c, { x: 860, y: 380 }, 95, 0.3, cloth(1));
      finish(c, v);
    },
  },
  {
    file: 'lantern-girl.jpg',
    width: 1200,
    height: 1800,
    turned: true,
    paint(c, view) {
      const v = view({ light: lightAt(0.97), seed: 137, horizon: 0.62 });
      sky(c, v, 0.3, 0.55);
      hills(c, v);
      const hand = person(c, { x: 600, y: 1700 }, 640, { ...STANDING, rightArm: 1.6, leftArm: -1.5 }, 5, 0.4);
      const g = c.createRadialGradient(hand.x, hand.y, 0, hand.x, hand.y, 420);
      g.addColorStop(0, 'rgba(255,240,184,0.95)');
      g.addColorStop(0.12, 'rgba(255,190,96,0.55)');
      g.addColorStop(1, 'rgba(255,170,80,0)');
      c.fillStyle = g;
      c.fillRect(0, 0, 1200, 1800);
      finish(c, v);
    },
  },
  {
    file: 'last-light.webp',
    width: 1800,
    height: 1012,
    paint(c, view) {
      const v = view({ light: lightAt(1), seed: 141, horizon: 0.66 });
      sky(c, v, 0.55, 0.58);
      hills(c, v);
      for (let k = 0; k < 6; k++) person(c, { x: 240 + k * 260, y: 980 }, 170, { ...STANDING, rightArm: 2.2 }, k, 0.85);
      delta(c, { x: 1180, y: 270 }, 80, 0.3, '#c2452f');
      finish(c, v);
    },
  },
];
