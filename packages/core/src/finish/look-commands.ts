import { CommandError } from '../document/command-error.ts';
import { command } from '../document/command.ts';
import type { Look, Montage, Shot, ShotLook } from '../document/montage.ts';
import { changeShots } from '../shots/shot-commands.ts';
import { sectionOf } from '../song/sections.ts';
import type { LookKind } from './looks/all.ts';
import type { Between } from './moment-at.ts';
import { spanBetween } from './span-between.ts';

/** Which table a look is; nothing for looks without one. */
function tableOf(montage: Montage, kind: LookKind, table: string | undefined): { readonly table?: string } {
  if (kind !== 'table') return {};
  if (table === undefined || !montage.tables.some((t) => t.id === table))
    throw new CommandError('There is no such table of colours. Read one from a .cube file first.');
  return { table };
}

/** The looks of a shot with one of them changed, laid or (at no strength) taken away. */
function withLook(shot: Shot, look: ShotLook): Shot {
  const same = (one: ShotLook): boolean => one.kind === look.kind && one.table === look.table;
  const others = (shot.looks ?? []).filter((one) => !same(one));
  const there = (shot.looks ?? []).findIndex(same);
  const looks = look.strength === 0 ? others : there < 0 ? [...others, look] : others.toSpliced(there, 0, look);
  const { looks: _, ...bare } = shot;
  return looks.length > 0 ? { ...bare, looks } : bare;
}

export const lookCommands = {
  /** on shots; no strength takes it away */
  setShotLook: command<{ ids: readonly string[]; kind: LookKind; strength: number; table?: string }>(
    'Change the look of a shot',
    (montage, { ids, kind, strength, table }) => {
      const look: ShotLook = { kind, strength, ...tableOf(montage, kind, table) };
      return changeShots(montage, ids, (shot) => withLook(shot, look));
    },
  ),

  /** all at once, in place of those there are */
  setShotLooks: command<{ ids: readonly string[]; looks: readonly ShotLook[] }>('Change the looks of a shot', (montage, { ids, looks }) =>
    changeShots(montage, ids, ({ looks: _, ...shot }) =>
      looks.length > 0
        ? { ...shot, looks: looks.map((l) => ({ kind: l.kind, strength: l.strength, ...tableOf(montage, l.kind, l.table) })) }
        : shot,
    ),
  ),

  /** of all pictures: of the whole montage where nothing else is said */
  addLook: command<{ kind: LookKind; strength: number; table?: string; section?: string; span?: Between }>(
    'Lay a look',
    (montage, { kind, strength, table, section, span }) => {
      if (section !== undefined) sectionOf(montage, section);
      const lastId = montage.lastId + 1;
      const look: Look = {
        id: `lk${lastId}`,
        kind,
        strength,
        ...tableOf(montage, kind, table),
        ...(section === undefined ? {} : { section }),
        ...(span && section === undefined ? { span: spanBetween(montage, span) } : {}),
      };
      return { ...montage, lastId, looks: [...montage.looks, look] };
    },
  ),

  changeLook: command<{ id: string; strength?: number; span?: Between | null }>('Change a look', (montage, { id, strength, span }) => {
    const old = montage.looks.find((l) => l.id === id);
    if (!old) throw new CommandError('That look is no longer there.');
    const { span: before, ...rest } = old;
    const kept = span === undefined ? before : ((span && spanBetween(montage, span, before)) ?? undefined);
    const next: Look = { ...rest, strength: strength ?? old.strength, ...(kept ? { span: kept } : {}) };
    return { ...montage, looks: montage.looks.map((l) => (l === old ? next : l)) };
  }),

  removeLooks: command<{ ids: readonly string[] }>('Remove a look', (montage, { ids }) => ({
    ...montage,
    looks: montage.looks.filter((l) => !ids.includes(l.id)),
  })),

  /** colours: base64, as the document holds them */
  addTable: command<{ name: string; colours: string }>('Read a table of colours', (montage, { name, colours }) => {
    if (montage.tables.some((t) => t.colours === colours)) return montage;
    if (montage.tables.length >= 40) throw new CommandError('There are forty tables of colours already. Remove one that is not used.');
    const lastId = montage.lastId + 1;
    return { ...montage, lastId, tables: [...montage.tables, { id: `tb${lastId}`, name: name.slice(0, 200), colours }] };
  }),

  /** and all looks that are made of it */
  removeTable: command<{ id: string }>('Remove a table of colours', (montage, { id }) => ({
    ...montage,
    tables: montage.tables.filter((t) => t.id !== id),
    looks: montage.looks.filter((l) => l.table !== id),
    shots: montage.shots.map((shot) => {
      if (!shot.looks?.some((l) => l.table === id)) return shot;
      const { looks, ...bare } = shot;
      const kept = looks.filter((l) => l.table !== id);
      return kept.length > 0 ? { ...bare, looks: kept } : bare;
    }),
  })),
};
