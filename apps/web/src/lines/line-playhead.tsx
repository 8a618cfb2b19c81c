import { useRef } from 'react';
import type { Line } from '@bluster/core';
import { player } from '../playback/player.ts';
import { usePlayhead } from '../playback/use-player.ts';
import { lineX } from './line-x.ts';

/** The playhead on one line; moved without drawing anything else again. */
export function LinePlayhead({ line, width, height }: { line: Line; width: number; height: number }): React.JSX.Element {
  const ref = useRef<HTMLDivElement>(null);
  usePlayhead((time) => {
    const element = ref.current;
    if (!element) return;
    // At the very end it stands behind the last line's last moment.
    const end = Math.max(line.from, player.state.length - 1e-6);
    const here = time >= line.from - 1e-6 && (time < line.to || (time >= end && line.to >= end));
    element.style.display = here ? 'block' : 'none';
    if (here) element.style.transform = `translateX(${lineX(line, time, width)}px)`;
  });
  return (
    <div ref={ref} className="pointer-events-none absolute top-0 left-0 z-20 hidden will-change-transform" style={{ height }}>
      <div className="absolute -top-1 -left-1 size-2 rounded-full bg-coral" />
      <div className="absolute -left-px h-full w-0.5 bg-coral" />
    </div>
  );
}
