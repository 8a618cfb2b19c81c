import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { offsetFor, type BarsALine, type Line, type LookedAt } from '@bluster/core';
import { useSize } from '../interface/use-size.ts';
import { usePlayhead } from '../playback/use-player.ts';
import { player } from '../playback/player.ts';
import { useTurn } from './turns.ts';
import { useTouched } from './use-touched.ts';

interface RowsProps {
  readonly lines: readonly Line[];
  /** pixels from the top of one line to the top of the next */
  readonly lineHeight: number;
  /** room beside the lines, pixels */
  readonly left: number;
  readonly right: number;
  readonly children: (line: Line, width: number) => React.ReactNode;
}

interface ScrollerProps extends RowsProps {
  readonly barsALine: BarsALine;
  readonly label: string;
  readonly className?: string;
  readonly testId?: string;
  /** what stands above the lines, in sight wherever they are scrolled to */
  readonly head?: React.ReactNode;
}

/**
 * The lines of a song one below the other. The line with the playhead stays in sight while it plays and wherever the playhead goes, and is
 * in sight at first; lines with other bars start where was looked at before.
 */
export function LineScroller({ barsALine, label, className = '', testId, head, ...rows }: ScrollerProps): React.JSX.Element {
  const [hold, { width }] = useSize<HTMLDivElement>();
  const scroller = useRef<HTMLDivElement>(null);
  const lookedAt = useRef<LookedAt>(null);
  const touched = useTouched(scroller);
  return (
    <>
      {head}
      <div
        ref={scroller}
        className={`min-h-0 flex-1 overflow-y-auto ${className}`}
        data-testid={testId}
        role="region"
        aria-label={label}
        tabIndex={0}
      >
        <div ref={hold} className="relative">
          <Rows
            key={barsALine}
            {...rows}
            width={Math.max(0, width - rows.left - rows.right)}
            scroller={scroller}
            lookedAt={lookedAt}
            touched={touched}
          />
        </div>
      </div>
    </>
  );
}

interface MeasuredProps extends RowsProps {
  readonly width: number;
  readonly scroller: React.RefObject<HTMLDivElement | null>;
  readonly lookedAt: React.RefObject<LookedAt | null>;
  readonly touched: React.RefObject<boolean>;
}

/** Only the lines in sight are on the page. Made anew for other bars, so that it starts scrolled to where it should. */
function Rows({ lines, lineHeight, left, width, scroller, lookedAt, touched, children }: MeasuredProps): React.JSX.Element {
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
  const lineAt = (time: number): number => lines.findLastIndex((l) => time >= l.from);
  /** How far the middle of a line lies below the top of what is in sight, pixels. */
  const depthOf = (index: number): number => (index + 0.5) * lineHeight - scroller.current!.scrollTop;
  const show = (index: number): void => {
    const depth = depthOf(index);
    if (depth < 0 || depth > scroller.current!.clientHeight) rows.scrollToIndex(index, { align: 'auto' });
  };
  // The playhead stays in sight where there comes to be less room. Where nothing was looked at yet, it counts as seen.
  const room = useRef(lookedAt.current ? 0 : Infinity);
  useEffect(() => {
    const before = room.current;
    if (height === 0 || height === before) return;
    room.current = height;
    const index = lineAt(player.time());
    const depth = depthOf(index);
    if (depth >= 0 && depth <= before) show(index);
  });
  const at = useRef({ index: -1, time: player.time() });
  usePlayhead((time) => {
    const before = at.current;
    const index = lineAt(time);
    at.current = { index, time };
    if (index < 0 || time === before.time) return;
    if (player.state.playing) {
      if (index !== before.index) rows.scrollToIndex(index, { align: 'auto' });
      // What is touched is in sight, and does not move away under the hand.
    } else if (!touched.current) show(index);
  });
  return (
    <div style={{ height: rows.getTotalSize() }}>
      {width > 0 &&
        rows.getVirtualItems().map((row) => (
          <div key={row.key} className="absolute" style={{ top: row.start, left, width }}>
            <Row line={lines[row.index]!} width={width} inSight={row.end > offset && row.start < offset + height}>
              {children}
            </Row>
          </div>
        ))}
    </div>
  );
}

interface RowProps {
  readonly line: Line;
  readonly width: number;
  readonly inSight: boolean;
  readonly children: RowsProps['children'];
}

function Row({ line, width, inSight, children }: RowProps): React.ReactNode {
  return useTurn(inSight ? 'seen' : 'hidden') && children(line, width);
}
