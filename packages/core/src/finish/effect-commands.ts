import type { EffectTrigger } from './effects/triggers.ts';
import { EFFECTS, type EffectKind } from './effects/all.ts';
import { CommandError } from '../document/command-error.ts';
import type { Effect, Mark, Moment, Montage } from '../document/montage.ts';
import { markOf } from '../marks/mark-list.ts';
import { sectionOf } from '../song/sections.ts';
import { command } from '../document/command.ts';
import { thinned } from './thinned-flashes.ts';

const momentOf = (mark: Mark): Moment => ({ markId: mark.id, time: mark.time });

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

export const effectCommands = {
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

  changeEffects: command<
    { ids: readonly string[] } & Partial<Pick<Effect, 'strength' | 'beats' | 'curve' | 'way' | 'gentle' | 'fadeIn' | 'fadeOut'>>
  >('Change an effect', (montage, { ids, strength, beats, curve, way, gentle, fadeIn, fadeOut }) => {
    const chosen = new Set(ids);
    const to: Partial<Effect> = {
      ...(strength === undefined ? {} : { strength }),
      ...(beats === undefined ? {} : { beats }),
      ...(curve === undefined ? {} : { curve }),
      ...(way === undefined ? {} : { way }),
      ...(gentle === undefined ? {} : { gentle }),
      ...(fadeIn === undefined ? {} : { fadeIn }),
      ...(fadeOut === undefined ? {} : { fadeOut }),
    };
    return { ...montage, effects: montage.effects.map((e) => (chosen.has(e.id) ? { ...e, ...to } : e)) };
  }),

  // Strobes slow down; of flashes that come too fast, those that are laid on every mark of a kind leave some of their marks out.
  thinFlashes: command<object>('Thin out flashes', (montage) => thinned(montage)),

  removeEffects: command<{ ids: readonly string[] }>('Remove an effect', (montage, { ids }) => ({
    ...montage,
    effects: montage.effects.filter((e) => !ids.includes(e.id)),
  })),
};
