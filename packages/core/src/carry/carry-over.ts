import { CommandError } from '../document/command-error.ts';
import type { Montage } from '../document/montage.ts';
import { gapsOf, withoutGaps } from '../fill/gaps.ts';
import { toSongTime } from '../music/arrangement.ts';
import { scoreOf } from '../score/score.ts';
import { carriedDress, type LeftDress } from './carried-dress.ts';
import { carriedPegs } from './carried-pegs.ts';
import { carriedShots } from './carried-shots.ts';
import { Crossing, piecesOf, turnsOf } from './crossing.ts';
import { matchStretches, type Matching, type Reach } from './match-stretches.ts';
import { stretchesOf, type Stretch } from './stretches.ts';

/** What of a montage found no place in another song: its section has none there, or a shorter one. */
export interface LeftOver {
  readonly what: LeftDress['what'] | 'shot' | 'cutaway' | 'cue';
  readonly name: string;
  /** where it was, seconds of the old song */
  readonly at: number;
}

/** A montage in another song. */
export interface CarriedOver {
  readonly montage: Montage;
  /** the sections of both songs, and which of the new takes its cut from which of the old */
  readonly old: readonly Stretch[];
  readonly fresh: readonly Stretch[];
  readonly matching: Matching;
  readonly left: readonly LeftOver[];
  /** the footage of the shots among it, each once, in the order in which it was seen */
  readonly homeless: readonly string[];
  readonly counts: {
    readonly pegs: number;
    readonly shots: number;
    /** slots in which nothing hangs */
    readonly empty: number;
    /** shots that run slower so that they last */
    readonly slowed: number;
  };
}

/** How a montage goes over. */
export interface CarryWish {
  readonly reach: Reach;
  /** by hand; left out, by likeness */
  readonly matching?: Matching;
}

/** What a montage needs of what its source shows, and does not have. */
function withMaterial(source: Montage, target: Montage): Pick<Montage, 'footage' | 'sounds' | 'faces'> {
  const missing = <T extends { readonly assetId: string }>(theirs: readonly T[], own: readonly T[]): readonly T[] => [
    ...own,
    ...theirs.filter((t) => !own.some((o) => o.assetId === t.assetId)),
  ];
  // Footage that was taken away since stays away.
  return { footage: target.footage, sounds: missing(source.sounds, target.sounds), faces: missing(source.faces, target.faces) };
}

/** Shots that a slower song left short run slower, where that is enough. */
function slowed(montage: Montage, source: Montage): { montage: Montage; count: number } {
  const before = new Set(gapsOf(source).map((g) => g.slot.placed?.shot.id));
  const short = gapsOf(montage).filter((g) => g.slot.placed && !before.has(g.slot.placed.shot.id) && g.remedies.includes('slow'));
  if (short.length === 0) return { montage, count: 0 };
  return {
    montage: withoutGaps(
      montage,
      short.map((g) => g.slot.start.id),
      'slow',
    ),
    count: short.length,
  };
}

/**
 * A montage laid over another song. Sections are matched by likeness and order, bars to bars: pegs, shots, effects and
 * titles keep their bar and beat in the section. Where a section of the new song is longer, cuts go on as they were.
 * @param source the montage, with its own song
 * @param target whose song is marked already; its footage and marks stay, what hung there makes way
 * @throws CommandError where one of them has no song, or nothing hangs in the source
 */
export function carriedOver(source: Montage, target: Montage, { reach, matching: wished }: CarryWish): CarriedOver {
  if (!target.song) throw new CommandError('There is no song to lay it over. Choose one first.');
  if (!source.song) throw new CommandError('That montage has no song, so that nothing in it has a bar or a beat.');
  const old = stretchesOf(source);
  const fresh = stretchesOf(target, reach === 'all' ? target.song.pieces : [{ from: 0, to: target.song.length }]);
  const matching = wished?.length === fresh.length ? wished : matchStretches(old, fresh, reach);
  const turns = turnsOf(old, fresh, matching, reach);
  if (turns.length === 0) throw new CommandError('No section of the new song takes its cut from one of the old. Choose at least one.');
  const pieces = reach === 'all' ? target.song.pieces : piecesOf(target, turns);
  const { fadeIn, fadeOut } = source.song;
  const { shape, cut, pegRule, styles, tables, moveRule, pictureFades, ducking } = source;
  const arranged: Montage = { ...target, song: { ...target.song, pieces, fadeIn, fadeOut } };
  const crossing = new Crossing(source, arranged, turns);
  const { pegs, names, lastId } = carriedPegs(source, crossing, crossing.ground.lastId);
  const { dress, left, lastId: last } = carriedDress(source, crossing, names, lastId);
  const bare: Montage = {
    ...crossing.ground,
    ...{ shape, cut, pegRule, styles, tables, moveRule, pictureFades, ducking },
    ...withMaterial(source, target),
    ...dress,
    pegs,
    shots: [],
    lastId: last,
  };
  const { shots, homeless } = carriedShots(source, bare, crossing, names);
  const { montage, count } = slowed({ ...bare, shots }, source);
  const { slots } = scoreOf(montage);
  const cuesLeft = source.marks.filter(
    (m) =>
      m.kind === 'cue' && stretchesOf(source).some((s) => m.time >= s.from && m.time < s.to) && !crossing.moment({ markId: m.id, time: 0 }),
  );
  return {
    montage,
    old,
    fresh,
    matching,
    left: [
      ...homeless.map(({ placed, start }): LeftOver => {
        const at = toSongTime(source.song!.pieces, Math.max(0, start.time));
        return { what: placed!.shot.over ? 'cutaway' : 'shot', name: placed!.item.name, at };
      }),
      ...left,
      ...cuesLeft.map((m): LeftOver => ({ what: 'cue', name: m.label ?? '', at: m.time })),
    ],
    homeless: [...new Set(homeless.flatMap(({ placed }) => (placed!.shot.over ? [] : [placed!.shot.assetId])))].filter((id) =>
      target.footage.some((f) => f.assetId === id),
    ),
    counts: { pegs: pegs.length, shots: shots.length, empty: slots.filter((s) => !s.placed).length, slowed: count },
  };
}
