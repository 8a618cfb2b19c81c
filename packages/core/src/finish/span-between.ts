import { CommandError } from '../document/command-error.ts';
import type { Montage, Span } from '../document/montage.ts';
import { placedSpan } from './placed-span.ts';
import { momentAt, type Between } from './moment-at.ts';

const WHOLE: Span = { from: null, to: null, rise: 0, fall: 0 };

/** A span as it is asked for, over what it was. @throws CommandError where a mark is gone, or it would end before it begins */
export function spanBetween(montage: Montage, asked: Between, before: Span = WHOLE): Span {
  const end = (at: Between['from'], old: Span['from']): Span['from'] => (at === undefined ? old : at && momentAt(montage, at));
  const span: Span = {
    from: end(asked.from, before.from),
    to: end(asked.to, before.to),
    rise: asked.rise ?? before.rise,
    fall: asked.fall ?? before.fall,
  };
  const moved = asked.from !== undefined || asked.to !== undefined;
  if (moved && montage.song && !placedSpan(montage, span))
    throw new CommandError('It would end before it begins, or outside the song in use. Choose an earlier start or a later end.');
  return span;
}
