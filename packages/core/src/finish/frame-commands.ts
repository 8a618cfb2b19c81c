import { CommandError } from '../document/command-error.ts';
import { command } from '../document/command.ts';
import type { Between } from './moment-at.ts';
import { spanBetween } from './span-between.ts';

/** The thing of an id in a list. @throws CommandError where it is gone */
function named<T extends { readonly id: string }>(things: readonly T[], id: string, what: string): T {
  const thing = things.find((one) => one.id === id);
  if (!thing) throw new CommandError(`That ${what} is no longer there.`);
  return thing;
}

const without = <T extends { readonly id: string }>(things: readonly T[], ids: readonly string[]): T[] =>
  things.filter(({ id }) => !ids.includes(id));

export const frameCommands = {
  /** seconds */
  setPictureFades: command<{ in: number; out: number }>('Change the picture’s fades', (montage, fades) => ({
    ...montage,
    pictureFades: { in: fades.in, out: fades.out },
  })),

  /** width to height; from start to end where nothing else is said */
  addLetterbox: command<{ aspect: number; span?: Between }>('Lay a letterbox', (montage, { aspect, span }) => {
    const lastId = montage.lastId + 1;
    const letterbox = { id: `lb${lastId}`, aspect, span: spanBetween(montage, span ?? {}) };
    return { ...montage, lastId, letterboxes: [...montage.letterboxes, letterbox] };
  }),

  changeLetterbox: command<{ id: string; aspect?: number; span?: Between }>('Change a letterbox', (montage, { id, aspect, span }) => {
    const old = named(montage.letterboxes, id, 'letterbox');
    const next = { ...old, aspect: aspect ?? old.aspect, span: span ? spanBetween(montage, span, old.span) : old.span };
    return { ...montage, letterboxes: montage.letterboxes.map((one) => (one === old ? next : one)) };
  }),

  removeLetterboxes: command<{ ids: readonly string[] }>('Remove a letterbox', (montage, { ids }) => ({
    ...montage,
    letterboxes: without(montage.letterboxes, ids),
  })),

  /** #rrggbb */
  addFade: command<{ colour: string; span: Between }>('Lay a fade', (montage, { colour, span }) => {
    const lastId = montage.lastId + 1;
    return { ...montage, lastId, fades: [...montage.fades, { id: `fd${lastId}`, colour, span: spanBetween(montage, span) }] };
  }),

  changeFade: command<{ id: string; colour?: string; span?: Between }>('Change a fade', (montage, { id, colour, span }) => {
    const old = named(montage.fades, id, 'fade');
    const next = { ...old, colour: colour ?? old.colour, span: span ? spanBetween(montage, span, old.span) : old.span };
    return { ...montage, fades: montage.fades.map((one) => (one === old ? next : one)) };
  }),

  removeFades: command<{ ids: readonly string[] }>('Remove a fade', (montage, { ids }) => ({
    ...montage,
    fades: without(montage.fades, ids),
  })),
};
