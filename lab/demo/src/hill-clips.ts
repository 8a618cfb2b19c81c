import { WIDE, type ClipScript } from './clip-script.ts';
import { cloth, diamond, line, tail, type Flight, type Point } from './kites.ts';
import { finish, noise, scene } from './landscape.ts';
import { after, heading, leaps, ring } from './motion.ts';
import { blend, clear, lightAt } from './palette.ts';
import { person, running, STANDING } from './people.ts';

/** Clips of the people on the hill, and of what stands there in the wind. */
export const HILL_CLIPS: readonly ClipScript[] = [
  {
    name: 'launch-line',
    ...WIDE,
    length: 6,
    actions: [2.4],
    sound: 'whoosh',
    paint(c, t, view) {
      const v = view({ light: lightAt(0.05), pan: t * 0.12, seed: 3, horizon: 0.58 });
      scene(c, v, 0.2, 0.3);
      const up = after(t, 2.4, 0.7);
      const flight: Flight = (x) => {
        const u = after(x, 2.4, 0.7);
        return { x: 720 + 110 * u + 26 * Math.sin(x * 1.9), y: 470 - 300 * u + 18 * Math.sin(x * 3.1 + 1) };
      };
      const hands = [0, 1, 2].map((k) => {
        const phase = t * (1.9 + 0.15 * k) + k * 0.33;
        const feet = { x: 210 + k * 165 + 30 * Math.sin(t + k), y: 640 - Math.abs(Math.sin(phase * Math.PI * 2)) * 14 };
        return person(c, feet, 150 + 12 * k, k === 2 ? { ...running(phase), rightArm: 2.2 } : running(phase), k);
      });
      line(c, hands[2]!, flight(t), 0.4 + 0.6 * up, 2);
      tail(c, flight, t, 62, cloth(1), { x: -1.2, y: -0.5 });
      diamond(c, flight(t), 62, 0.25 + heading(flight, t), cloth(0));
      finish(c, v);
    },
  },
  {
    name: 'crowd-hill',
    ...WIDE,
    length: 8,
    actions: [2, 4, 6],
    sound: 'cheer',
    paint(c, t, view) {
      const v = view({ light: lightAt(0.42), seed: 15, horizon: 0.48, pan: t * 0.012 });
      scene(c, v, 0.5, 0.16);
      for (let k = 0; k < 5; k++) {
        const flight: Flight = (x) => ({
          x: 140 + k * 250 + 40 * Math.sin(x * 1.1 + k * 2),
          y: 120 + 56 * noise(4, k) + 22 * Math.sin(x * 1.7 + k),
        });
        tail(c, flight, t, 30, cloth(k + 3), { x: -1, y: -0.4 }, 4);
        diamond(c, flight(t), 30, 0.2 * Math.sin(t + k), cloth(k));
      }
      for (let row = 0; row < 3; row++)
        for (let k = 0; k < 11; k++) {
          const who = row * 11 + k;
          const late = 0.05 * noise(2, who);
          const up = leaps(t - late, [2, 4, 6], 0.62);
          const feet = { x: 30 + k * 122 + row * 46 + 16 * noise(6, who), y: 520 + row * 88 - up * (58 + 14 * noise(9, who)) };
          const arms = 0.35 + 2.4 * Math.max(up, after(t, 1.7, 0.3) * 0.45);
          person(
            c,
            feet,
            118 + row * 22,
            { lean: 0.04 * Math.sin(t * 2 + who), leftArm: -arms, rightArm: arms, leftLeg: -0.1 - 0.3 * up, rightLeg: 0.1 + 0.3 * up },
            who,
          );
        }
      finish(c, v);
    },
  },
  {
    name: 'drum',
    ...WIDE,
    length: 5,
    actions: [1.5, 2.5, 3.5],
    sound: 'drum',
    paint(c, t, view) {
      const v = view({ light: lightAt(0.5), seed: 33, horizon: 0.5 });
      scene(c, v, 0.3, 0.22);
      const hits = [1.5, 2.5, 3.5];
      const shake = hits.reduce((sum, m) => sum + ring(t, m, 9, 7), 0);
      const lift = hits.reduce((up, m) => {
        const d = m - t;
        return d > 0 && d < 0.5 ? Math.max(up, Math.sin((d / 0.5) * Math.PI)) : up;
      }, 0);
      const hand = person(
        c,
        { x: 430, y: 660 },
        330,
        { lean: 0.12, leftArm: 0.7, rightArm: 1.12 + 1.25 * lift, leftLeg: -0.2, rightLeg: 0.22 },
        9,
      );
      const drum = { x: 730, y: 470 + shake * 6 };
      c.fillStyle = cloth(0);
      c.beginPath();
      c.ellipse(drum.x, drum.y + 150, 170, 44, 0, 0, Math.PI * 2);
      c.fill();
      c.fillRect(drum.x - 170, drum.y, 340, 150);
      c.strokeStyle = '#f3e0b0';
      c.lineWidth = 7;
      c.beginPath();
      for (let k = 0; k <= 8; k++) c.lineTo(drum.x - 165 + k * 41, drum.y + (k % 2 ? 20 : 150));
      c.stroke();
      c.fillStyle = blend('#fbf3df', '#ffffff', Math.max(0, shake));
      c.beginPath();
      c.ellipse(drum.x, drum.y, 170, 44 + shake * 5, 0, 0, Math.PI * 2);
      c.fill();
      const tip = { x: hand.x + 150 * Math.cos(0.35 - lift * 1.2), y: hand.y + 150 * Math.sin(0.35 - lift * 1.2) };
      c.strokeStyle = '#7d5a2b';
      c.lineWidth = 13;
      c.lineCap = 'round';
      c.beginPath();
      c.moveTo(hand.x, hand.y);
      c.lineTo(tip.x, tip.y);
      c.stroke();
      c.fillStyle = '#e9dcc2';
      c.beginPath();
      c.arc(tip.x, tip.y, 24, 0, Math.PI * 2);
      c.fill();
      for (const m of hits) {
        const since = t - m;
        if (since < 0 || since > 0.5) continue;
        c.strokeStyle = clear('#fff3cf', 0.8 * (1 - since / 0.5));
        c.lineWidth = 5;
        c.beginPath();
        c.ellipse(drum.x, drum.y - 10, 180 + since * 420, 50 + since * 130, 0, Math.PI, Math.PI * 2);
        c.stroke();
      }
      finish(c, v);
    },
  },
  {
    name: 'windsock',
    ...WIDE,
    length: 6,
    actions: [2.2],
    paint(c, t, view) {
      const v = view({ light: lightAt(0.12), seed: 41, horizon: 0.72, wind: 1 + 2 * after(t, 2.2, 0.3) });
      scene(c, v, 0.8, 0.3);
      const fill = after(t, 2.2, 0.28);
      c.strokeStyle = '#e9dcc2';
      c.lineWidth = 12;
      c.beginPath();
      c.moveTo(360, 760);
      c.lineTo(360, 150);
      c.stroke();
      let at: Point = { x: 368, y: 190 };
      const rings = 7;
      for (let k = 0; k < rings; k++) {
        const droop = 1.35 * (1 - fill) + 0.08 * Math.sin(t * 9 - k * 0.9) * fill + 0.12 * Math.sin(t * 2 - k * 0.4) * (1 - fill);
        const next = { x: at.x + 88 * Math.cos(droop), y: at.y + 88 * Math.sin(droop) };
        const r1 = 58 - k * 4.5;
        const r2 = 58 - (k + 1) * 4.5;
        const nx = -Math.sin(droop);
        const ny = Math.cos(droop);
        c.fillStyle = k % 2 ? '#fbf3df' : cloth(0);
        c.beginPath();
        c.moveTo(at.x + nx * r1, at.y + ny * r1);
        c.lineTo(next.x + nx * r2, next.y + ny * r2);
        c.lineTo(next.x - nx * r2, next.y - ny * r2);
        c.lineTo(at.x - nx * r1, at.y - ny * r1);
        c.fill();
        at = next;
      }
      finish(c, v);
    },
  },
  {
    name: 'reel-hands',
    ...WIDE,
    length: 7,
    actions: [3],
    paint(c, t, view) {
      const v = view({ light: lightAt(0.55), seed: 47, horizon: 0.62 });
      scene(c, v, 0.66, 0.18);
      const turns = t < 3 ? t * t * 0.9 : 8.1 + 0.06 * ring(t, 3, 6, 5);
      c.save();
      c.translate(640 + 5 * ring(t, 3, 8, 5), 400);
      c.fillStyle = '#7d5a2b';
      c.fillRect(-330, -22, 660, 44);
      c.rotate(turns * Math.PI * 2 * 0.5);
      for (let k = 0; k < 6; k++) {
        c.rotate(Math.PI / 3);
        c.fillStyle = k % 2 ? '#b98a4e' : '#d9a865';
        c.beginPath();
        c.roundRect(-26, 30, 52, 165, 18);
        c.fill();
      }
      c.fillStyle = '#fbf3df';
      c.beginPath();
      c.arc(0, 0, 96, 0, Math.PI * 2);
      c.fill();
      c.strokeStyle = cloth(2);
      for (let k = 0; k < 9; k++) {
        c.lineWidth = 3;
        c.beginPath();
        c.arc(0, 0, 46 + k * 5.4, k, k + 5.2);
        c.stroke();
      }
      c.restore();
      line(c, { x: 700, y: 330 }, { x: 1290, y: 40 }, t > 3 ? 1 : 0.9, 4);
      for (const side of [-1, 1]) {
        c.fillStyle = side < 0 ? '#c98d62' : '#d79a6e';
        c.beginPath();
        c.roundRect(640 + side * 300 - 62, 350 + 6 * Math.sin(t * 5 + side), 124, 108, 44);
        c.fill();
        c.fillStyle = cloth(3);
        c.fillRect(640 + side * 380 - (side < 0 ? 260 : 0), 368, 260, 76);
      }
      finish(c, v);
    },
  },
  {
    name: 'kids-run',
    width: 720,
    height: 1280,
    fps: 30,
    length: 5,
    actions: [2.5],
    paint(c, t, view) {
      const v = view({ light: lightAt(0.15), seed: 60, horizon: 0.62, pan: t * 0.35 });
      scene(c, v, 0.24, 0.2);
      const up = leaps(t, [2.5], 0.7);
      const phase = t * 2.1;
      const pose =
        up > 0 ? { lean: 0.15, leftArm: -2.3, rightArm: 2.5, leftLeg: -0.9, rightLeg: 0.8 } : { ...running(phase, 0.25), rightArm: 2.3 };
      const hand = person(c, { x: 300, y: 1130 - 190 * up - Math.abs(Math.sin(phase * 6.28)) * 16 }, 330, pose, 4);
      const flight: Flight = (x) => ({ x: 500 + 40 * Math.sin(x * 2), y: 330 - 80 * after(x, 2.5, 0.5) + 24 * Math.sin(x * 3.4) });
      line(c, hand, flight(t), 0.8, 3);
      tail(c, flight, t, 84, cloth(0), { x: -1.1, y: -0.2 });
      diamond(c, flight(t), 84, 0.3 + heading(flight, t), cloth(1));
      finish(c, v);
    },
  },
  {
    name: 'flag-row',
    width: 1920,
    height: 1080,
    fps: 30,
    length: 6,
    actions: [2.5],
    paint(c, t, view) {
      const v = view({ light: lightAt(0.38), seed: 90, horizon: 0.66, pan: t * 0.05, wind: 1 + 2.5 * after(t, 2.5, 0.25) });
      scene(c, v, 0.2, 0.2);
      const gust = after(t, 2.5, 0.25);
      for (let k = 0; k < 7; k++) {
        const x = 130 + k * 280 - t * 26;
        c.strokeStyle = '#7d5a2b';
        c.lineWidth = 13;
        c.beginPath();
        c.moveTo(x, 1080);
        c.lineTo(x, 290 + 20 * noise(5, k));
        c.stroke();
        c.fillStyle = cloth(k);
        c.beginPath();
        const points = 16;
        const sag = (1 - gust) * 1.2 + 0.06;
        for (let side = 0; side < 2; side++)
          for (let i = 0; i <= points; i++) {
            const along = (side === 0 ? i : points - i) / points;
            const wave = Math.sin(t * (4 + 7 * gust) - along * 7 + k) * (10 + 22 * gust) * along;
            const px = x + 215 * along * Math.cos(sag);
            const py = 300 + 20 * noise(5, k) + 215 * along * Math.sin(sag) + wave + side * 150 * (1 - along * 0.85);
            c.lineTo(px, py);
          }
        c.fill();
      }
      for (let k = 0; k < 5; k++)
        person(c, { x: 260 + k * 330, y: 1040 }, 200, { ...STANDING, lean: -0.12 * gust, rightArm: 0.3 + 2 * gust * noise(1, k) }, k + 2);
      finish(c, v);
    },
  },
  {
    name: 'marshal',
    width: 960,
    height: 720,
    fps: 30,
    length: 4,
    actions: [1.2],
    sound: 'whistle',
    paint(c, t, view) {
      const v = view({ light: lightAt(0.28), seed: 96, horizon: 0.56 });
      scene(c, v, 0.8, 0.24);
      const up = after(t, 1.05, 0.18);
      const hand = person(
        c,
        { x: 440, y: 690 },
        400,
        { lean: -0.06 * up, leftArm: -0.35, rightArm: 0.35 + 2.55 * up, leftLeg: -0.14, rightLeg: 0.14 },
        7,
      );
      c.fillStyle = cloth(1);
      c.beginPath();
      const wave = Math.sin(t * 9) * 14;
      c.moveTo(hand.x, hand.y);
      c.lineTo(hand.x + 14, hand.y - 150);
      c.quadraticCurveTo(hand.x + 90, hand.y - 170 + wave, hand.x + 170, hand.y - 120 - wave);
      c.lineTo(hand.x + 10, hand.y - 62);
      c.fill();
      for (let k = 0; k < 4; k++) {
        const flight: Flight = (x) => ({
          x: 620 + k * 90 + 10 * Math.sin(x + k),
          y: 480 - 330 * after(x, 1.3 + k * 0.08, 0.9) + 10 * Math.sin(x * 3 + k),
        });
        tail(c, flight, t, 30, cloth(k + 2), { x: -0.8, y: -0.2 }, 4);
        diamond(c, flight(t), 30, 0.2, cloth(k + 4));
      }
      finish(c, v);
    },
  },
];
