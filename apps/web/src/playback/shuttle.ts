import { player } from './player.ts';

const FASTEST = 8;
let speed = 0;
let frame = 0;
let last = 0;

function run(now: number): void {
  if (speed === 0) return;
  const next = player.state.position + ((now - last) / 1000) * speed;
  last = now;
  if (next <= 0 || next >= player.state.length) speed = 0;
  player.seek(next);
  frame = requestAnimationFrame(run);
}

/**
 * Shuttles: forward plays with sound and doubles with each press after that, silently; back runs silently; 0 stops.
 */
export function shuttle(direction: -1 | 0 | 1): void {
  cancelAnimationFrame(frame);
  if (direction === 0) {
    speed = 0;
    player.pause();
    return;
  }
  const same = Math.sign(speed) === direction;
  if (direction === 1 && !same && !player.state.playing) {
    speed = 0;
    void player.play();
    return;
  }
  const from = player.state.playing ? 1 : Math.abs(speed);
  speed = direction * (same || player.state.playing ? Math.min(FASTEST, Math.max(1, from) * (direction === 1 || same ? 2 : 1)) : 1);
  player.pause();
  last = performance.now();
  frame = requestAnimationFrame(run);
}
