import type { SKRSContext2D } from '@napi-rs/canvas';
import { blend } from './palette.ts';
import { cloth, type Point } from './kites.ts';

const SKIN = ['#f0c9a4', '#c98d62', '#8d5b3f', '#e2b184', '#6e4634'];
const HAIR = ['#3a2a22', '#7a4a2a', '#1f1b1e', '#b98a4e', '#5a5560'];

/** How somebody stands: angles in radians, 0 hangs straight down, positive forward (right). */
export interface Pose {
  readonly lean: number;
  readonly leftArm: number;
  readonly rightArm: number;
  readonly leftLeg: number;
  readonly rightLeg: number;
}

export const STANDING: Pose = { lean: 0, leftArm: -0.25, rightArm: 0.25, leftLeg: -0.08, rightLeg: 0.08 };

/** Running, at a phase in steps. */
export function running(phase: number, lean = 0.2): Pose {
  const swing = Math.sin(phase * Math.PI * 2);
  return { lean, leftArm: -swing * 0.95, rightArm: swing * 0.95, leftLeg: swing * 0.85, rightLeg: -swing * 0.85 };
}

function limb(c: SKRSContext2D, from: Point, angle: number, length: number, width: number, colour: string): Point {
  const to = { x: from.x + Math.sin(angle) * length, y: from.y + Math.cos(angle) * length };
  c.strokeStyle = colour;
  c.lineWidth = width;
  c.lineCap = 'round';
  c.beginPath();
  c.moveTo(from.x, from.y);
  c.lineTo(to.x, to.y);
  c.stroke();
  return to;
}

/**
 * Somebody of a height in pixels with the feet at a point. `dim` mixes the dusk in.
 * @returns where the right hand is
 */
export function person(c: SKRSContext2D, feet: Point, tall: number, pose: Pose, who: number, dim = 0, dusk = '#20233a'): Point {
  const tone = (hex: string): string => blend(hex, dusk, dim);
  const shirt = tone(cloth(who * 3 + 1));
  const trousers = tone(['#2f3b52', '#5a4a3c', '#39564a', '#6b5b73'][who % 4]!);
  const skin = tone(SKIN[who % SKIN.length]!);
  const hip = { x: feet.x, y: feet.y - tall * 0.45 };
  const neck = { x: hip.x + Math.sin(pose.lean) * tall * 0.34, y: hip.y - Math.cos(pose.lean) * tall * 0.34 };
  limb(c, hip, pose.leftLeg, tall * 0.45, tall * 0.1, blend(trousers, '#000000', 0.18));
  limb(c, neck, pose.leftArm, tall * 0.32, tall * 0.075, blend(shirt, '#000000', 0.18));
  limb(c, hip, pose.rightLeg, tall * 0.45, tall * 0.105, trousers);
  c.strokeStyle = shirt;
  c.lineWidth = tall * 0.19;
  c.lineCap = 'round';
  c.beginPath();
  c.moveTo(hip.x, hip.y - tall * 0.03);
  c.lineTo(neck.x, neck.y + tall * 0.04);
  c.stroke();
  const head = { x: neck.x + Math.sin(pose.lean) * tall * 0.12, y: neck.y - tall * 0.13 };
  c.fillStyle = skin;
  c.beginPath();
  c.arc(head.x, head.y, tall * 0.09, 0, Math.PI * 2);
  c.fill();
  c.fillStyle = tone(HAIR[(who * 7) % HAIR.length]!);
  c.beginPath();
  c.arc(head.x - tall * 0.012, head.y - tall * 0.018, tall * 0.095, Math.PI * 0.92, Math.PI * 1.98);
  c.fill();
  const hand = limb(c, neck, pose.rightArm, tall * 0.32, tall * 0.08, shirt);
  c.fillStyle = skin;
  c.beginPath();
  c.arc(hand.x, hand.y, tall * 0.045, 0, Math.PI * 2);
  c.fill();
  return hand;
}
