import { onceFor } from '../lists/once-for.ts';
import { median } from '../music/median.ts';
import type { Mark, Montage } from '../document/montage.ts';
import { pulse } from './in-use.ts';

/** A beat that may not be where it should, and why. */
export interface DoubtfulMark {
  readonly mark: Mark;
  /** in a few words, for the line */
  /** whether its words are to be read: of beats on end that are doubtful for the same reason, the first speaks for all */
  readonly first: boolean;
  readonly why: string;
  /** how much: 0 hardly, 1 surely */
  readonly doubt: number;
}

/** Heard less clearly than this, a beat is doubtful; 0 to 1. */
const UNCLEAR = 0.3;
/** A beat this part of a beat off the place that its neighbours leave for it is doubtful. */
const OFF_BEAT = 0.09;
/** From this many beats on, a gap is a hole. */
const HOLE = 1.6;
const AROUND = 4;

const HARDLY_HEARD = 'hardly heard';

/**
 * The beats and bars that are worth a look, in the order of time; none where nothing is marked. Locked ones are trusted.
 * Times are song seconds.
 */
export function doubtfulMarks({ marks }: Pick<Montage, 'marks'>): readonly DoubtfulMark[] {
  return doubtfulAmong(marks);
}

const doubtfulAmong = onceFor((marks: Montage['marks']): readonly DoubtfulMark[] => {
  const beats = pulse({ marks });
  const gaps = beats.slice(1).map((b, i) => b.time - beats[i]!.time);
  /** How far a beat is off the middle between its neighbours, seconds; 0 at the ends. */
  const offs = beats.map((_, i) => (i === 0 || i === beats.length - 1 ? 0 : (gaps[i - 1]! - gaps[i]!) / 2));
  const doubtful = beats.flatMap((mark, i): DoubtfulMark[] => {
    if (mark.locked) return [];
    const typical = median(gaps.slice(Math.max(0, i - AROUND), i + AROUND)) ?? 0;
    const before = gaps[i - 1];
    const after = gaps[i];
    if (before !== undefined && typical > 0 && before > HOLE * typical)
      return [{ mark, first: true, why: `${Math.round(before / typical) - 1 || 1} missing before?`, doubt: 1 }];
    if (before !== undefined && after !== undefined && typical > 0 && after < HOLE * typical) {
      const off = offs[i]!;
      // A beat out of place puts its neighbours off too, by half as much: only the worst one is meant.
      const worst = Math.abs(off) >= Math.max(Math.abs(offs[i - 1] ?? 0), Math.abs(offs[i + 1] ?? 0));
      if (worst && Math.abs(off) > OFF_BEAT * typical)
        return [
          {
            mark,
            first: true,
            why: `${Math.round(Math.abs(off) * 1000)} ms ${off > 0 ? 'late' : 'early'}?`,
            doubt: Math.min(1, Math.abs(off) / (0.25 * typical)),
          },
        ];
    }
    if (mark.origin === 'detected' && (mark.confidence ?? 1) < UNCLEAR)
      return [{ mark, first: true, why: HARDLY_HEARD, doubt: 0.5 * (1 - (mark.confidence ?? 1) / UNCLEAR) }];
    return [];
  });
  return tellOnce(doubtful, beats);
});

/** Of beats on end that are hardly heard, as in a quiet intro, the first speaks for all. */
function tellOnce(doubtful: readonly DoubtfulMark[], beats: readonly Mark[]): DoubtfulMark[] {
  const place = new Map(beats.map((mark, i) => [mark, i]));
  const goesOn = (a: DoubtfulMark | undefined, b: DoubtfulMark): boolean =>
    a?.why === HARDLY_HEARD && b.why === HARDLY_HEARD && place.get(b.mark)! - place.get(a.mark)! === 1;
  return doubtful.map((one, i) => {
    if (goesOn(doubtful[i - 1], one)) return { ...one, first: false };
    let last = i;
    while (last + 1 < doubtful.length && goesOn(doubtful[last], doubtful[last + 1]!)) last++;
    return last === i ? one : { ...one, why: `${last - i + 1} beats ${HARDLY_HEARD}` };
  });
}
