import { useEffect, useRef, useSyncExternalStore } from 'react';
import { player, type PlayerState } from './player.ts';

/** The player's state; does not change with every frame played. */
export function usePlayer(): PlayerState {
  return useSyncExternalStore(player.subscribe, player.snapshot);
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
