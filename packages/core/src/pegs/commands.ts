import { toMontageTime, toSongTime } from '../music/arrangement.ts';
import { frameAt, frameTime } from '../time/frames.ts';
import { CommandError } from '../document/command-error.ts';
import type { Montage, Peg, PegRule, Shot } from '../document/montage.ts';
import { markOf } from '../marks/mark-list.ts';
import { isInSection, sectionOf } from '../song/sections.ts';
import { placesOfRules, ruleFor, whyNoPlaces } from './places.ts';
import { ruleKindOf } from './rules/all.ts';
import type { PegPlace } from './rules/rule-kind.ts';
import { pegAt, pegNamed, placeKey, rehang } from './rehang.ts';
import { continued } from '../score/retime.ts';
import { partTime, pegsOf, scoreOf, slotAt, slotFrom, type Slot } from '../score/score.ts';
import { pulse } from '../marks/in-use.ts';
import { command } from '../document/command.ts';

/** Pegs by the montage's rules: hand-made ones stay, and so do those that the rules want again, with their shots. */
function hangWanted(montage: Montage, places: readonly PegPlace[]): Montage {
  // Two places of one key are one: the first of them.
  const wanted = new Map<string, PegPlace>();
  for (const place of places) {
    const key = placeKey(montage, place);
    if (!wanted.has(key)) wanted.set(key, place);
  }
  const pegged = new Set<string>();
  const pegs = montage.pegs.filter((p) => {
    if (p.over) return true;
    const key = placeKey(montage, p);
    if (p.origin !== 'hand' && !wanted.has(key)) return false;
    pegged.add(key);
    return true;
  });
  let lastId = montage.lastId;
  for (const [key, place] of wanted) if (!pegged.has(key)) pegs.push(pegAt(place, `p${++lastId}`, 'rule'));
  return withTransitionsKept(montage, rehang({ ...montage, lastId }, pegs));
}

/** After pegs were hung anew: a cut that stays at its frame keeps its transition, though another peg makes it now. */
function withTransitionsKept(before: Montage, after: Montage): Montage {
  const there = new Set(after.pegs.map((p) => p.id));
  const lost = new Map(
    pegsOf(before).pegs.flatMap(({ id, peg, frame }) => (peg?.transition && !there.has(id) ? [[frame, peg.transition] as const] : [])),
  );
  if (lost.size === 0) return after;
  const { pegs: placed, places } = pegsOf(after);
  const pegs = after.pegs.map((peg) => {
    const at = places.get(peg.id);
    const transition = at === undefined || peg.over || peg.transition ? undefined : lost.get(placed[at]!.frame);
    return transition ? { ...peg, transition } : peg;
  });
  return { ...after, pegs };
}

/** Hangs one peg at a place. In a filled slot the clip goes on in the second half, so nothing is lost and no gap appears. */
export function withPeg(montage: Montage, place: PegPlace): Montage {
  const at = toMontageTime(montage.song!.pieces, place.time);
  if (at === null) throw new CommandError('That moment is cut out of the song.');
  const peg = pegAt(place, `p${montage.lastId + 1}`, 'hand');
  const before = scoreOf(montage);
  const next = rehang({ ...montage, lastId: montage.lastId + 1 }, [...montage.pegs, peg]);
  const placed = pegsOf(next).pegs.find((p) => p.id === peg.id);
  if (!placed) throw new CommandError('There is a cut on that very frame already.');
  const divided = slotAt(before, placed.frame);
  if (!divided?.placed) return next;
  const into = frameTime(placed.frame - divided.start.frame, montage.shape.rate);
  const [first, second] = continued(divided.placed, into, divided.length);
  const tail: Shot = { ...second, id: `s${next.lastId + 1}`, startPeg: peg.id, endPeg: divided.end.id };
  const shots = next.shots.map((s) => (s.id === first.id ? { ...first, endPeg: peg.id } : s));
  return { ...next, lastId: next.lastId + 1, shots: [...shots, tail] };
}

/** The places that divide a slot: its beats, its middle, or the steps of a pattern, without its ends. */
function placesInside(montage: Montage, slot: Slot, by: 'beats' | 'half' | readonly boolean[]): PegPlace[] {
  const pieces = montage.song!.pieces;
  const { rate } = montage.shape;
  const [from, to] = [frameTime(slot.start.frame, rate), frameTime(slot.end.frame, rate)];
  const beats = pulse(montage);
  const atTime = (time: number): PegPlace => {
    const songTime = toSongTime(pieces, time);
    // The beat itself or its half is meant, where one is that near; else the frame.
    for (const [i, mark] of beats.entries())
      for (const part of [undefined, 0.5]) {
        const there = partTime(beats.slice(Math.max(0, i - 1), i + 2), mark, part);
        if (Math.abs(there - songTime) < 0.03) return { markId: mark.id, ...(part === undefined ? {} : { part }), time: there };
      }
    return { markId: null, time: songTime };
  };
  const times =
    by === 'beats'
      ? beats.flatMap((m) => toMontageTime(pieces, m.time) ?? [])
      : by === 'half'
        ? [(from + to) / 2]
        : by.flatMap((on, k) => (on ? [from + (k * (to - from)) / by.length] : []));
  const edge = 1.5 * frameTime(1, rate);
  return times.filter((t) => t > from + edge && t < to - edge).map(atTime);
}

export const pegCommands = {
  /** for all of the song, which drops the sections' own rules, or for one section; null is no rule */
  hangByRule: command<{ rule: PegRule | null; section?: string }>('Hang pegs by rule', (montage, { rule, section }) => {
    const stretch = section === undefined ? undefined : sectionOf(montage, section);
    const others = montage.sectionRules.filter((r) => r.section !== section);
    const ruled: Montage =
      section === undefined
        ? { ...montage, pegRule: rule, sectionRules: [] }
        : { ...montage, sectionRules: rule ? [...others, { section, rule }] : others };
    const places = placesOfRules(ruled);
    const inside = stretch ? places.filter((p) => isInSection(stretch, p.time)) : places;
    const used = stretch ? ruleFor(ruled, stretch) : rule;
    if (used && inside.length === 0) {
      // In a short section a rule may have nothing but its first beat, which is a cut anyway.
      const only = stretch !== undefined && montage.marks.length > 0 && ruleKindOf(used).counts;
      const why = only ? null : whyNoPlaces(montage, used);
      if (why !== null) throw new CommandError(why);
    }
    return hangWanted(ruled, places);
  }),

  /** `part`: how far on the way to the next beat */
  hangPeg: command<{ markId: string; part?: number } | { time: number }>('Hang a peg', (montage, ask) => {
    if (!montage.song) throw new CommandError('There is no song yet. Choose one first.');
    const chosen = 'markId' in ask ? markOf(montage, ask.markId) : null;
    const part = 'markId' in ask ? ask.part : undefined;
    const at: PegPlace = chosen
      ? { markId: chosen.id, ...(part === undefined ? {} : { part }), time: partTime(pulse(montage), chosen, part) }
      : { markId: null, time: 'time' in ask ? ask.time : 0 };
    if (chosen && montage.pegs.some((p) => !p.over && p.markId === chosen.id && p.part === part && p.offset === 0)) return montage;
    return withPeg(montage, at);
  }),

  removePeg: command<{ id: string }>('Remove a peg', (montage, { id }) => {
    pegNamed(montage, id);
    return rehang(
      montage,
      montage.pegs.filter((p) => p.id !== id),
    );
  }),

  /** the shot after it keeps its first picture */
  movePeg: command<{ id: string; to: { markId: string } | { time: number } }>('Move a peg', (montage, { id, to }) => {
    const peg = pegNamed(montage, id);
    const onto = 'markId' in to ? markOf(montage, to.markId) : null;
    if (onto && montage.pegs.some((p) => p.id !== id && p.markId === onto.id && !p.part && Boolean(p.over) === Boolean(peg.over)))
      throw new CommandError('That mark has a peg already.');
    const { part: _, ...whole } = peg;
    const time = onto?.time ?? ('time' in to ? to.time : peg.time);
    const moved: Peg = { ...whole, markId: onto?.id ?? null, time, offset: 0, origin: 'hand' };
    return rehang(
      montage,
      montage.pegs.map((p) => (p.id === id ? moved : p)),
    );
  }),

  /** by its beats, in the middle, or by steps of equal length */
  divideSlot: command<{ startPeg: string; by: 'beats' | 'half' | readonly boolean[] }>('Divide a slot', (montage, { startPeg, by }) => {
    const slot = slotFrom(montage, startPeg);
    if (!slot) throw new CommandError('That slot is no longer there.');
    const places = placesInside(montage, slot, by);
    if (places.length === 0)
      throw new CommandError(by === 'beats' ? 'There is no beat inside this slot.' : 'This slot is too short to be divided so.');
    return places.reduce((m, place) => withPeg(m, place), montage);
  }),

  // The slot and the one after it become one; what hangs in the first covers both.
  joinSlots: command<{ startPeg: string }>('Join two slots', (montage, { startPeg }) => {
    const { slots } = scoreOf(montage);
    const after = slots[slots.findIndex((s) => s.start.id === startPeg) + 1];
    if (!after?.start.peg) throw new CommandError('There is no slot after this one to join it with.');
    return rehang(
      montage,
      montage.pegs.filter((p) => p.id !== after.start.id),
    );
  }),
};

/**
 * The peg on the screen's frame at a montage time, if there is one to take away.
 * @param seconds montage seconds
 * @returns null on frames without one, and at the ends of the montage
 */
export function pegAtTime(montage: Montage, seconds: number): Peg | null {
  const frame = frameAt(seconds, montage.shape.rate);
  return scoreOf(montage).pegs.find((p) => p.frame === frame)?.peg ?? null;
}

/** What another set of pegs changed, for saying so. */
export interface PegChanges {
  readonly hung: number;
  readonly taken: number;
  readonly handMade: number;
  /** shots that lost their slot, and shots that hang as before */
  readonly shotsLost: number;
  readonly shotsKept: number;
}

const inUse = (montage: Montage): Peg[] => pegsOf(montage).pegs.flatMap(({ peg }) => peg ?? []);

/**
 * How the pegs in use and the shots of one montage differ from those of another.
 * @returns counts, 0 where nothing differs
 */
export function pegChanges(before: Montage, after: Montage): PegChanges {
  const [old, now] = [new Set(before.pegs.map((p) => p.id)), new Set(after.pegs.map((p) => p.id))];
  const kept = new Set(after.shots.map((s) => s.id));
  return {
    hung: inUse(after).filter((p) => !old.has(p.id)).length,
    taken: inUse(before).filter((p) => !now.has(p.id)).length,
    handMade: inUse(after).filter((p) => p.origin === 'hand').length,
    shotsLost: before.shots.filter((s) => !kept.has(s.id)).length,
    shotsKept: before.shots.filter((s) => kept.has(s.id)).length,
  };
}
