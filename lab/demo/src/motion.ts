import type { Flight } from './kites.ts';

/** Rises from 0 to 1 over `span` seconds after a moment, slow at both ends. */
export function after(time: number, moment: number, span: number): number {
  const x = Math.min(1, Math.max(0, (time - moment) / span));
  return x * x * (3 - 2 * x);
}

/** A ringing that starts at a moment and dies away. */
export function ring(time: number, moment: number, hz: number, decay: number): number {
  const since = time - moment;
  return since < 0 ? 0 : Math.sin(since * hz * Math.PI * 2) * Math.exp(-since * decay);
}

/** The parabola of jumps at moments, 0 to 1, each lasting `span` seconds. */
export function leaps(time: number, moments: readonly number[], span: number): number {
  for (const moment of moments) {
    const x = (time - moment) / span;
    if (x >= 0 && x <= 1) return 4 * x * (1 - x);
  }
  return 0;
}

/** Which way a kite leans on its path, radians. */
export const heading = (flight: Flight, t: number): number => {
  const a = flight(t - 0.04);
  const b = flight(t + 0.04);
  return Math.atan2(b.x - a.x, -(b.y - a.y)) * 0.5;
};
