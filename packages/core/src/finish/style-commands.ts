import { CommandError } from '../document/command-error.ts';
import { command } from '../document/command.ts';
import type { Face, Montage, Title, TitleStyle } from '../document/montage.ts';
import { lookOf, wearing } from './styles.ts';

function styleNamed(montage: Montage, id: string): TitleStyle {
  const style = montage.styles.find((s) => s.id === id);
  if (!style) throw new CommandError('That style is no longer there.');
  return style;
}

/** A name for a style that no other one has. */
function nameOf(montage: Montage, name: string, but?: string): string {
  const wanted = name.trim().slice(0, 60);
  if (wanted === '') throw new CommandError('A style needs a name.');
  if (montage.styles.some((s) => s.id !== but && s.name === wanted))
    throw new CommandError(`There is a style "${wanted}" already. Choose another name.`);
  return wanted;
}

const plain = ({ style: _, ...title }: Title): Title => title;

export const styleCommands = {
  /** what a title looks like, kept by name; the title wears it from then on */
  keepStyle: command<{ titleId: string; name: string }>('Keep a style', (montage, { titleId, name }) => {
    const title = montage.titles.find((t) => t.id === titleId);
    if (!title) throw new CommandError('That title is no longer there.');
    const lastId = montage.lastId + 1;
    const style: TitleStyle = { id: `y${lastId}`, name: nameOf(montage, name), look: lookOf(title) };
    const titles = montage.titles.map((t) => (t === title ? { ...t, style: style.id } : t));
    return { ...montage, lastId, titles, styles: [...montage.styles, style] };
  }),

  /** null: each keeps how it looks, and stands alone from then on */
  wearStyle: command<{ ids: readonly string[]; style: string | null }>('Change the style', (montage, { ids, style }) => {
    const worn = style === null ? null : styleNamed(montage, style);
    const titles = montage.titles.map((t) =>
      !ids.includes(t.id) ? t : worn ? { ...wearing(t, worn.look), style: worn.id } : t.style === undefined ? t : plain(t),
    );
    return { ...montage, titles };
  }),

  renameStyle: command<{ id: string; name: string }>('Rename a style', (montage, { id, name }) => {
    const old = styleNamed(montage, id);
    const style = { ...old, name: nameOf(montage, name, id) };
    return { ...montage, styles: montage.styles.map((s) => (s === old ? style : s)) };
  }),

  /** titles that wear it keep how they look */
  removeStyle: command<{ id: string }>('Remove a style', (montage, { id }) => ({
    ...montage,
    styles: montage.styles.filter((s) => s.id !== id),
    titles: montage.titles.map((t) => (t.style === id ? plain(t) : t)),
  })),

  /** typefaces of the editor's own, by their files */
  addFaces: command<{ faces: readonly Face[] }>('Bring in a typeface', (montage, { faces }) => {
    const fresh = faces.filter((face) => !montage.faces.some((f) => f.assetId === face.assetId));
    return { ...montage, faces: [...montage.faces, ...fresh] };
  }),

  /** what is written in it is plain from then on */
  removeFace: command<{ assetId: string }>('Remove a typeface', (montage, { assetId }) => {
    const without = <T extends { readonly face?: string | undefined }>({ face: _, ...rest }: T): T => rest as T;
    return {
      ...montage,
      faces: montage.faces.filter((f) => f.assetId !== assetId),
      titles: montage.titles.map((t) => (t.face === assetId ? without(t) : t)),
      styles: montage.styles.map((s) => (s.look.face === assetId ? { ...s, look: without(s.look) } : s)),
    };
  }),
};
