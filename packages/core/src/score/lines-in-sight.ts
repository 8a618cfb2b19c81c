import type { Line } from './lines.ts';

/** Which lines were looked at, and where. Pixels. */
export interface LookedAt {
  readonly lines: readonly Line[];
  readonly offset: number;
  readonly height: number;
}

/**
 * How far other lines of the same song are scrolled so that what was looked at stays where it was: the playhead where it
 * was in sight, else the first whole line.
 * @param time of the playhead, seconds
 * @param lineHeight pixels
 * @returns pixels from the top; 0 where nothing was looked at before
 */
export function offsetFor(before: LookedAt | null, lines: readonly Line[], lineHeight: number, time: number): number {
  if (!before || before.lines.length === 0) return 0;
  const at = before.lines.findIndex((l) => time >= l.from && time < l.to);
  const inSight = at * lineHeight >= before.offset && (at + 1) * lineHeight <= before.offset + before.height;
  const anchor = inSight ? at : Math.min(before.lines.length - 1, Math.ceil(before.offset / lineHeight));
  const moment = inSight ? time : before.lines[anchor]!.from;
  const now = Math.max(
    0,
    lines.findIndex((l) => moment < l.to - 1e-6),
  );
  const offset = now * lineHeight - (anchor * lineHeight - before.offset);
  return Math.max(0, Math.min(lines.length * lineHeight - before.height, offset));
}
