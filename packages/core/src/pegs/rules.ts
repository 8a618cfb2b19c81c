import { arrangedLength, toMontageTime, toSongTime } from '../music/arrangement.ts';
import { isInSection, sectionStretches, type SectionStretch } from '../song/sections.ts';
import { frameTime } from '../time/frames.ts';
import type { Mark, Montage, PegRule } from '../document/montage.ts';
import { marksInUse, pulse } from '../marks/in-use.ts';

/** A slot shorter than this at the very start or end of the song would be a sliver, seconds. */
const EDGE_SLIVER_S = 0.25;

/** A place for a peg: on a mark, a part of a beat after one, or (without a mark) at a time of the song. */
export interface PegPlace {
  readonly markId: string | null;
  readonly part?: number;
  /** song seconds */
  readonly time: number;
}

/** The rule that holds for a section: its own, or the one for all. */
export function ruleFor(montage: Montage, section: SectionStretch): PegRule | null {
  return montage.sectionRules.find((r) => r.section === section.id)?.rule ?? montage.pegRule;
}

const onMark = (mark: Mark): PegPlace => ({ markId: mark.id, time: mark.time });

/** Every so many beats or bars. Counting starts at the first bar, or at the first beat where there is none. */
function everyPulse(beats: readonly Mark[], unit: 'beat' | 'bar', every: number): PegPlace[] {
  const units = unit === 'bar' ? beats.filter((m) => m.kind === 'bar') : beats;
  const start = Math.max(
    0,
    units.findIndex((m) => m.kind === 'bar'),
  );
  return units.filter((_, i) => (((i - start) % every) + every) % every === 0).map(onMark);
}

/** The place a number of beats (parts allowed) after the beat with an index. */
function afterBeats(beats: readonly Mark[], index: number, count: number): PegPlace | null {
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
function barGroups(beats: readonly Mark[], size: number): { first: number; beats: number }[] {
  const starts: number[] = [];
  for (let i = 0; i < beats.length; i++) if (beats[i]!.kind === 'bar') starts.push(i);
  const groups = starts.filter((_, i) => i % size === 0);
  const typical = starts.length > 1 ? starts[1]! - starts[0]! : 4;
  return groups.map((first, i) => ({ first, beats: groups[i + 1] ? groups[i + 1]! - first : typical * size }));
}

function patternPlaces(beats: readonly Mark[], bars: number, steps: readonly boolean[]): PegPlace[] {
  const places: PegPlace[] = [];
  for (const group of barGroups(beats, bars))
    for (let k = 0; k < steps.length; k++) {
      const place = steps[k] ? afterBeats(beats, group.first, (k * group.beats) / steps.length) : null;
      if (place) places.push(place);
    }
  return places;
}

/** Bars in the first part of a stretch, beats in the second, half beats in the last. */
function fasterPlaces(beats: readonly Mark[], from: number, to: number): PegPlace[] {
  const part = (to - from) / 3;
  return beats.flatMap((m, i): PegPlace[] => {
    const third = Math.floor((m.time - from + 1e-6) / part);
    if (third <= 0) return m.kind === 'bar' ? [onMark(m)] : [];
    const half = third >= 2 ? afterBeats(beats, i, 0.5) : null;
    return [onMark(m), ...(half ? [half] : [])];
  });
}

function evenPlaces(montage: Montage, frames: number): PegPlace[] {
  const pieces = montage.song!.pieces;
  const length = arrangedLength(pieces);
  const step = frameTime(frames, montage.shape.rate);
  return Array.from({ length: Math.max(0, Math.ceil(length / step) - 1) }, (_, i) => ({
    markId: null,
    time: toSongTime(pieces, (i + 1) * step + 1e-7),
  }));
}

function placesOf(montage: Montage, rule: PegRule, from: number, to: number): PegPlace[] {
  const beats = (): readonly Mark[] => pulse(montage);
  const kind = (wanted: Mark['kind']): PegPlace[] => montage.marks.filter((m) => m.kind === wanted).map(onMark);
  switch (rule.kind) {
    case 'pulse':
      return everyPulse(beats(), rule.unit, rule.every);
    case 'accents':
      return montage.marks
        .filter((m) => m.kind === 'accent' && (m.band ?? 'mid') === rule.band && (m.strength ?? 1) >= rule.least)
        .map(onMark);
    case 'drops':
      return kind('drop');
    case 'cues':
      return kind('cue');
    case 'pattern':
      return patternPlaces(beats(), rule.bars, rule.steps);
    case 'faster':
      return fasterPlaces(
        beats().filter((m) => m.time >= from - 0.02 && m.time < to),
        from,
        to,
      );
    case 'even':
      return evenPlaces(montage, rule.frames);
    case 'none':
      return [];
  }
}

/**
 * The places where a rule hangs pegs between two times of the song, in order. None lies so near to the arranged song's
 * start or end that a sliver would be left; a place that sleeps keeps its peg, which wakes with it.
 */
export function placesByRule(montage: Montage, rule: PegRule, from = 0, to = Infinity): PegPlace[] {
  const { song } = montage;
  if (!song) return [];
  const length = arrangedLength(song.pieces);
  return placesOf(montage, rule, Math.max(0, from), Math.min(to, song.length))
    .filter(({ time }) => {
      if (!isInSection({ from, to }, time)) return false;
      const at = toMontageTime(song.pieces, time);
      return at === null || (at >= EDGE_SLIVER_S && at <= length - EDGE_SLIVER_S);
    })
    .sort((a, b) => a.time - b.time);
}

/** The marks that a rule chooses in the whole song, in order. */
export function marksByRule(montage: Montage, rule: PegRule): Mark[] {
  const marks = new Map(marksInUse(montage).map((m) => [m.id, m]));
  return placesByRule(montage, rule).flatMap((p) => (p.markId !== null && p.part === undefined ? (marks.get(p.markId) ?? []) : []));
}

/** The places of all rules of a montage together, each section by its own. */
export function placesOfRules(montage: Montage): PegPlace[] {
  const { pegRule, sectionRules } = montage;
  if (sectionRules.length === 0) return pegRule ? placesByRule(montage, pegRule) : [];
  return sectionStretches(montage).flatMap((section) => {
    const rule = ruleFor(montage, section);
    return rule ? placesByRule(montage, rule, section.from, section.to === montage.song!.length ? Infinity : section.to) : [];
  });
}

const NAMES = { low: 'low accents', mid: 'mid accents', high: 'high accents', voice: 'voice accents' } as const;

/** A rule in a few words. */
export function ruleLabel(rule: PegRule | null): string {
  switch (rule?.kind) {
    case 'pulse':
      return rule.every === 1 ? (rule.unit === 'beat' ? 'every beat' : 'bars') : `${rule.every} ${rule.unit}s`;
    case 'accents':
      return NAMES[rule.band];
    case 'pattern':
      return rule.steps.map((on) => (on ? '●' : '○')).join(' ');
    case 'faster':
      return 'faster and faster';
    case 'even':
      return `every ${rule.frames} frames`;
    case 'none':
      return 'no pegs';
    case undefined:
      return 'by hand';
    default:
      return rule!.kind;
  }
}

/** What is wrong with a rule that chooses nothing, and what to do. */
export function whyNoPlaces(montage: Montage, rule: PegRule): string {
  if (rule.kind === 'drops') return 'There are no drops to hang pegs on. Mark them in Song with U, or choose another rule.';
  if (rule.kind === 'cues') return 'There are no cues to hang pegs on. Mark them in Song with Q, or read them from a file.';
  if (rule.kind === 'accents') return `There are no ${NAMES[rule.band]} of that strength here. Lower the strength, or choose another band.`;
  if (montage.marks.length === 0) return 'There are no marks to hang pegs on. Let the beats be detected in Song, or tap them.';
  if (rule.kind === 'pulse') return `There are no ${rule.unit}s to hang pegs on. Set where bar 1 is in Song, or choose another rule.`;
  return 'There are no bars to hang pegs on here. Set where bar 1 is in Song, or choose another rule.';
}
