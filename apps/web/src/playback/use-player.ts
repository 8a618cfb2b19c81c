import { useEffect, useRef, useSyncExternalStore } from 'react';
import { player, type PlayerState } from './player.ts';

/**
 * Something of the player's state; does not change with every frame played. What is drawn is drawn anew only where that changes: a step
 * to the next frame is none of those who look at whether it plays.
 */
export function usePlayer<T>(select: (state: PlayerState) => T): T {
  return useSyncExternalStore(player.subscribe, () => select(player.state));
}

/** Calls back with the place heard, once a frame while it plays and once after every other change. */
export function usePlayhead(onTime: (time: number) => void): void {
  const latest = useRef(onTime);
  useEffect(() => {
    latest.current = onTime;
  });
  useEffect(() => {
    let frame = 0;
    const follow = (): void => {
      latest.current(player.time());
      if (player.state.playing) frame = requestAnimationFrame(follow);
    };
    const wake = (): void => {
      cancelAnimationFrame(frame);
      follow();
    };
    wake();
    const stop = player.subscribe(wake);
    return () => {
      stop();
      cancelAnimationFrame(frame);
    };
  }, []);
}
