import { onMark, type PegPlace, type RuleMark } from './rule-kind.ts';

/** The place a number of beats (parts allowed) after the beat with an index; null beyond the last beat. */
export function afterBeats(beats: readonly RuleMark[], index: number, count: number): PegPlace | null {
  const whole = Math.floor(count + 1e-6);
  const part = count - whole;
  const mark = beats[index + whole];
  if (!mark) return null;
  if (part < 1e-3) return onMark(mark);
  const next = beats[index + whole + 1];
  const length = next ? next.time - mark.time : index + whole > 0 ? mark.time - beats[index + whole - 1]!.time : 0;
  return { markId: mark.id, part, time: mark.time + part * length };
}

/** Bars in groups of one or two, each with the index of its first beat and how many beats it has. */
export function barGroups(beats: readonly RuleMark[], size: number): { first: number; beats: number }[] {
  const starts: number[] = [];
  for (let i = 0; i < beats.length; i++) if (beats[i]!.kind === 'bar') starts.push(i);
  const groups = starts.filter((_, i) => i % size === 0);
  const typical = starts.length > 1 ? starts[1]! - starts[0]! : 4;
  return groups.map((first, i) => ({ first, beats: groups[i + 1] ? groups[i + 1]! - first : typical * size }));
}

/** Said where a rule finds no bars. */
export const NO_BARS = 'There are no bars to hang pegs on here. Set where bar 1 is in Song, or choose another rule.';
