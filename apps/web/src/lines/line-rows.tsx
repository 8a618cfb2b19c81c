import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { offsetFor, type Line, type LookedAt } from '@bluster/core';
import { usePlayhead } from '../playback/use-player.ts';
import { player } from '../playback/player.ts';

interface LineRowsProps {
  readonly lines: readonly Line[];
  /** pixels from the top of one line to the top of the next */
  readonly lineHeight: number;
  readonly left: number;
  readonly width: number;
  readonly scroller: React.RefObject<HTMLDivElement | null>;
  /** what was looked at last; lines of another length start where that is */
  readonly lookedAt: React.RefObject<LookedAt | null>;
  readonly children: (line: Line, width: number) => React.ReactNode;
}

/**
 * The lines of a song one below the other; only those in sight are on the page. While it plays, the line that is heard
 * stays in sight. For lines of another length it is made anew, by key.
 */
export function LineRows({ lines, lineHeight, left, width, scroller, lookedAt, children }: LineRowsProps): React.JSX.Element {
  const [start] = useState(() => offsetFor(lookedAt.current, lines, lineHeight, player.time()));
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => lineHeight,
    initialOffset: start,
    overscan: 2,
  });
  const offset = rows.scrollOffset ?? start;
  const height = rows.scrollRect?.height ?? 0;
  useEffect(() => {
    lookedAt.current = { lines, offset, height };
  }, [lookedAt, lines, offset, height]);
  const heard = useRef(-1);
  usePlayhead((time) => {
    const index = lines.findIndex((l) => time >= l.from && time < l.to);
    if (index !== heard.current && player.state.playing && index >= 0) rows.scrollToIndex(index, { align: 'auto' });
    heard.current = index;
  });
  return (
    <div style={{ height: rows.getTotalSize() }}>
      {width > 0 &&
        rows.getVirtualItems().map((row) => (
          <div key={row.key} className="absolute" style={{ top: row.start, left, width }}>
            {children(lines[row.index]!, width)}
          </div>
        ))}
    </div>
  );
}
