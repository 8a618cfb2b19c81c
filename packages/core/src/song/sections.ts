import { CommandError } from '../document/command-error.ts';
import type { Montage, Section } from '../document/montage.ts';

/** A section of the song with the stretch that it takes up, song seconds. */
export interface SectionStretch {
  /** null for the whole of a song without sections */
  readonly id: string | null;
  readonly from: number;
  readonly to: number;
  readonly name: string;
}

/**
 * The song's sections in order; one stretch without a name where there are none, nothing where there is no song.
 * @returns song seconds
 */
export function sectionStretches(montage: Montage): SectionStretch[] {
  if (!montage.song) return [];
  const { sections, length } = montage.song;
  const sorted = [...sections].sort((a, b) => a.from - b.from);
  if (sorted.length === 0) return [{ id: null, from: 0, to: length, name: '' }];
  return sorted.map(({ id, from, name }, i) => ({ id, from: i === 0 ? 0 : from, to: sorted[i + 1]?.from ?? length, name }));
}

/**
 * The stretch of the section of an id; undefined where it is gone.
 * @returns song seconds
 */
export function sectionStretch(montage: Montage, id: string): SectionStretch | undefined {
  return sectionStretches(montage).find((s) => s.id === id);
}

/** The stretch of the section of an id. @throws CommandError where it is gone */
export function sectionOf(montage: Montage, id: string): SectionStretch {
  const stretch = sectionStretch(montage, id);
  if (!stretch) throw new CommandError('That section is no longer there.');
  return stretch;
}

/** Sections start on a beat, which may be marked a hair before them, seconds. */
const HAIR_S = 0.02;

/** Whether a moment of the song belongs to a section: a hair before its border it still belongs to what starts there. */
export function isInSection({ from, to }: Pick<SectionStretch, 'from' | 'to'>, songTime: number): boolean {
  return songTime >= from - HAIR_S && songTime < to - HAIR_S;
}

/** A section that starts this near to where another did is the same one, heard anew, seconds. */
const SAME_SECTION_S = 0.5;

/**
 * The montage with other sections. One that starts where another did takes its id, so that rules and effects that belong to
 * it stay; what belonged to a section that is gone sleeps.
 */
export function withSections(montage: Montage, fresh: readonly Omit<Section, 'id'>[]): Montage {
  if (!montage.song) return montage;
  const free = new Set(montage.song.sections);
  let { lastId } = montage;
  const sections = fresh.map(({ from, name, energy }): Section => {
    let same: Section | null = null;
    for (const old of free) if (Math.abs(old.from - from) < Math.abs((same?.from ?? Infinity) - from)) same = old;
    if (same && Math.abs(same.from - from) > SAME_SECTION_S) same = null;
    if (same) free.delete(same);
    return { id: same?.id ?? `sec${++lastId}`, from, name, ...(energy === undefined ? {} : { energy }) };
  });
  return { ...montage, lastId, song: { ...montage.song, sections } };
}
