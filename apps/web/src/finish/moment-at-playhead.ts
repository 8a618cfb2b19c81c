import { barAndBeat, nearestMark, shortClock, toSongTime, type At, type Moment, type Montage } from '@bluster/core';
import { montageNow } from '../document/editor.ts';
import { player } from '../playback/player.ts';

/** How far from the playhead a mark may be that is meant, seconds. */
const REACH_S = 0.4;

/** The mark at the playhead, or its mere time; null where there is no song. */
export function atPlayhead(): At | null {
  const montage = montageNow();
  if (!montage.song) return null;
  const time = toSongTime(montage.song.pieces, player.time());
  const mark = nearestMark(montage, time, REACH_S, (m) => m.kind !== 'accent');
  return mark ? { markId: mark.id } : { time };
}

/** A moment in words: its bar and beat, or the kind of its mark. */
export function momentWords(montage: Montage, { markId, time }: Moment): string {
  const mark = montage.marks.find((m) => m.id === markId);
  const at = barAndBeat(montage, (mark?.time ?? time) + 1e-3);
  const place = at ? `bar ${at.bar} · ${at.beat}` : shortClock(mark?.time ?? time);
  return mark && mark.kind !== 'beat' && mark.kind !== 'bar' ? `${mark.kind}, ${place}` : place;
}
