import type { EffectTrigger } from './effects/triggers.ts';
import { EFFECTS, type EffectKind } from './effects/all.ts';
import { CommandError } from '../document/command-error.ts';
import type { Effect, Mark, Montage, Title, Transition } from '../document/montage.ts';
import { markOf } from '../marks/mark-list.ts';
import { sectionOf } from '../song/sections.ts';
import { pegNamed } from '../pegs/rehang.ts';
import { command } from '../document/command.ts';

/** How a title is when it is written. */
export const TITLE_DEFAULTS = {
  size: 0.12,
  place: 'middle',
  weight: 'bold',
  colour: 'white',
  enter: 'fade',
} as const satisfies Partial<Title>;

const momentOf = (mark: Mark): Title['from'] => ({ markId: mark.id, time: mark.time });

function withEffect(montage: Montage, effect: Omit<Effect, 'id'>): Montage {
  const lastId = montage.lastId + 1;
  return { ...montage, lastId, effects: [...montage.effects, { ...effect, id: `e${lastId}` }] };
}

/** Which sound an effect is; nothing for effects of the picture. */
function soundOf(montage: Montage, kind: EffectKind, assetId: string | undefined): { readonly assetId?: string } {
  if (kind !== 'sound') return {};
  if (assetId === undefined || !montage.sounds.some((s) => s.assetId === assetId))
    throw new CommandError('There is no such sound. Drop sounds into Footage first.');
  return { assetId };
}

const isLike = (effect: Effect, kind: EffectKind, which: { readonly assetId?: string }): boolean =>
  effect.kind === kind && effect.assetId === which.assetId;

function titleNamed(montage: Montage, id: string): Title {
  const title = montage.titles.find((t) => t.id === id);
  if (!title) throw new CommandError('That title is no longer there.');
  return title;
}

/** What a title may say: its lines without blanks around them. */
function textOf(text: string): string {
  const trimmed = text
    .split('\n')
    .map((line) => line.trim())
    .join('\n')
    .trim()
    .slice(0, 400);
  if (trimmed === '') throw new CommandError('A title needs a word. Take it away if it is to say nothing.');
  return trimmed;
}

function placeOf(montage: Montage, at: { readonly markId: string } | { readonly time: number }): Title['from'] {
  if (!montage.song) throw new CommandError('There is no song yet. Choose one first.');
  return 'markId' in at ? momentOf(markOf(montage, at.markId)) : { markId: null, time: at.time };
}

export const finishCommands = {
  /** on every mark or cut of a kind, of all the song or of one section */
  addEffect: command<{ kind: EffectKind; what: EffectTrigger; section?: string; assetId?: string }>(
    'Lay an effect',
    (montage, { kind, what, section, assetId }) => {
      if (!montage.song) throw new CommandError('There is no song yet. Choose one first.');
      const which = soundOf(montage, kind, assetId);
      if (section !== undefined) sectionOf(montage, section);
      const same = (e: Effect): boolean =>
        isLike(e, kind, which) && e.on.kind === 'every' && e.on.what === what && e.on.section === section;
      if (montage.effects.some(same))
        throw new CommandError('This effect is laid there already. Change how strong it is, or take it away.');
      const on: Effect['on'] = { kind: 'every', what, ...(section === undefined ? {} : { section }), except: [] };
      return withEffect(montage, { kind, ...which, on, ...EFFECTS[kind].defaults });
    },
  ),

  // On one mark: what fires there is left out there, what was left out comes back, else an effect for this mark alone is laid.
  /** on one mark; `firing`: the effects that fire there now, each with the mark or cut that it fires on */
  toggleEffect: command<{
    kind: EffectKind;
    markId: string;
    firing: readonly { readonly id: string; readonly at: string | null }[];
    assetId?: string;
  }>('Lay or remove an effect on a mark', (montage, { kind, markId, firing, assetId }) => {
    if (firing.length > 0) {
      const places = new Map(firing.map(({ id, at }) => [id, at]));
      const effects = montage.effects.flatMap((e): Effect[] => {
        const at = places.get(e.id);
        if (at === undefined) return [e];
        return e.on.kind === 'moment' || at === null ? [] : [{ ...e, on: { ...e.on, except: [...e.on.except, at] } }];
      });
      return { ...montage, effects };
    }
    const which = soundOf(montage, kind, assetId);
    const leftOut = montage.effects.find((e) => isLike(e, kind, which) && e.on.kind === 'every' && e.on.except.includes(markId));
    if (leftOut?.on.kind === 'every') {
      const on = { ...leftOut.on, except: leftOut.on.except.filter((id) => id !== markId) };
      return { ...montage, effects: montage.effects.map((e) => (e === leftOut ? { ...e, on } : e)) };
    }
    const like = montage.effects.findLast((e) => isLike(e, kind, which));
    const { strength, beats } = like ?? EFFECTS[kind].defaults;
    return withEffect(montage, { kind, ...which, on: { kind: 'moment', ...momentOf(markOf(montage, markId)) }, strength, beats });
  }),

  changeEffects: command<{ ids: readonly string[]; strength?: number; beats?: number }>(
    'Change an effect',
    (montage, { ids, strength, beats }) => {
      const chosen = new Set(ids);
      const to = { ...(strength === undefined ? {} : { strength }), ...(beats === undefined ? {} : { beats }) };
      return { ...montage, effects: montage.effects.map((e) => (chosen.has(e.id) ? { ...e, ...to } : e)) };
    },
  ),

  removeEffects: command<{ ids: readonly string[] }>('Remove an effect', (montage, { ids }) => ({
    ...montage,
    effects: montage.effects.filter((e) => !ids.includes(e.id)),
  })),

  /** null is a plain cut */
  setTransition: command<{ pegIds: readonly string[]; transition: Transition | null }>(
    'Change a transition',
    (montage, { pegIds, transition }) => {
      for (const id of pegIds) pegNamed(montage, id);
      const chosen = new Set(pegIds);
      return {
        ...montage,
        pegs: montage.pegs.map(({ transition: old, ...peg }) => {
          if (!chosen.has(peg.id)) return old ? { ...peg, transition: old } : peg;
          return transition ? { ...peg, transition } : peg;
        }),
      };
    },
  ),

  /** seconds */
  setPictureFades: command<{ in: number; out: number }>('Change the picture’s fades', (montage, fades) => ({
    ...montage,
    pictureFades: { in: fades.in, out: fades.out },
  })),

  /** width to height */
  setLetterbox: command<{ aspect: number | null }>('Change the letterbox', (montage, { aspect }) => ({ ...montage, letterbox: aspect })),

  addTitle: command<{ text: string; at: { readonly markId: string } | { readonly time: number }; beats: number }>(
    'Write a title',
    (montage, { text, at, beats }) => {
      const lastId = montage.lastId + 1;
      const title: Title = { ...TITLE_DEFAULTS, id: `t${lastId}`, text: textOf(text), from: placeOf(montage, at), beats };
      return { ...montage, lastId, titles: [...montage.titles, title] };
    },
  ),

  changeTitle: command<{ id: string; at?: { readonly markId: string } | { readonly time: number } } & Partial<Omit<Title, 'id' | 'from'>>>(
    'Change a title',
    (montage, { id, at, text, beats, size, place, weight, colour, enter }) => {
      const old = titleNamed(montage, id);
      const title: Title = {
        id,
        text: text === undefined ? old.text : textOf(text),
        from: at ? placeOf(montage, at) : old.from,
        beats: beats ?? old.beats,
        size: size ?? old.size,
        place: place ?? old.place,
        weight: weight ?? old.weight,
        colour: colour ?? old.colour,
        enter: enter ?? old.enter,
      };
      return { ...montage, titles: montage.titles.map((t) => (t === old ? title : t)) };
    },
  ),

  removeTitles: command<{ ids: readonly string[] }>('Remove a title', (montage, { ids }) => ({
    ...montage,
    titles: montage.titles.filter((t) => !ids.includes(t.id)),
  })),
};
