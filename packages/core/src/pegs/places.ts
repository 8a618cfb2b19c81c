import { ruleKindOf } from './rules/all.ts';
import type { Ground, PegPlace } from './rules/rule-kind.ts';
import { arrangedLength, toMontageTime, toSongTime } from '../music/arrangement.ts';
import { isInSection, sectionStretches, type SectionStretch } from '../song/sections.ts';
import { frameTime } from '../time/frames.ts';
import type { Mark, Montage, PegRule } from '../document/montage.ts';
import { marksInUse, pulse } from '../marks/in-use.ts';

/** A slot shorter than this at the very start or end of the song would be a sliver, seconds. */
const EDGE_SLIVER_S = 0.25;

/**
 * The rule that holds for a section: its own, or the one for all.
 * @returns null where pegs are hung by hand alone
 */
export function ruleFor(montage: Montage, section: SectionStretch): PegRule | null {
  return montage.sectionRules.find((r) => r.section === section.id)?.rule ?? montage.pegRule;
}

/** Song times every so many frames of the montage. */
function everyFrames(montage: Montage, frames: number): number[] {
  const pieces = montage.song!.pieces;
  const step = frameTime(frames, montage.shape.rate);
  const count = Math.max(0, Math.ceil(arrangedLength(pieces) / step) - 1);
  return Array.from({ length: count }, (_, i) => toSongTime(pieces, (i + 1) * step + 1e-7));
}

/** Of a section of which nothing is known, and of all where they are alike. */
const NEITHER = 0.5;

/** The sections of the song and how full they are among one another. */
function fullness(montage: Montage): { from: number; energy: number }[] {
  const sections = [...(montage.song?.sections ?? [])].sort((a, b) => a.from - b.from);
  const known = sections.flatMap((s) => s.energy ?? []);
  const [least, most] = [Math.min(...known), Math.max(...known)];
  return sections.map(({ from, energy }) => ({
    from,
    energy: energy === undefined || most <= least ? NEITHER : (energy - least) / (most - least),
  }));
}

/**
 * The places where a rule hangs pegs between two times of the song, in order. None lies so near to the arranged song's
 * start or end that a sliver would be left; a place that sleeps keeps its peg, which wakes with it.
 */
export function placesByRule(montage: Montage, rule: PegRule, from = 0, to = Infinity): PegPlace[] {
  const { song } = montage;
  if (!song) return [];
  const length = arrangedLength(song.pieces);
  const ground: Ground = {
    marks: montage.marks,
    beats: pulse(montage),
    from: Math.max(0, from),
    to: Math.min(to, song.length),
    sections: fullness(montage),
    frameLength: frameTime(1, montage.shape.rate),
    everyFrames: (frames) => everyFrames(montage, frames),
  };
  const drops = new Set(montage.marks.flatMap((m) => (m.kind === 'drop' ? [m.id] : [])));
  const kind = ruleKindOf(rule);
  return kind
    .places(rule, ground)
    .filter(({ time, markId }) => {
      if (!isInSection({ from, to }, time)) return false;
      const at = toMontageTime(song.pieces, time);
      const edge = markId !== null && drops.has(markId) ? EDGE_SLIVER_S : Math.max(EDGE_SLIVER_S, kind.edge ?? 0);
      return at === null || (at >= edge && at <= length - edge);
    })
    .sort((a, b) => a.time - b.time);
}

/**
 * The marks that a rule chooses in the whole song, in order.
 * @returns song seconds; none where the rule finds no place, or only places between marks
 */
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

/**
 * A rule in a few words.
 * @returns "by hand" or the like for none
 */
export function ruleLabel(rule: PegRule | null): string {
  return rule ? ruleKindOf(rule).says(rule) : 'by hand';
}

/** What is wrong with a rule that chooses nothing, and what to do; null where that is as it should be. */
export function whyNoPlaces(montage: Montage, rule: PegRule): string | null {
  const kind = ruleKindOf(rule);
  if (kind.counts && montage.marks.length === 0)
    return 'There are no marks to hang pegs on. Let the beats be detected in Song, or tap them.';
  return kind.lacks(rule);
}
