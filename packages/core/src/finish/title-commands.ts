import { CommandError } from '../document/command-error.ts';
import { command } from '../document/command.ts';
import type { Montage, Title } from '../document/montage.ts';
import { momentAt, type At } from './moment-at.ts';

/** How a title is when it is written. */
export const TITLE_DEFAULTS = {
  size: 0.12,
  place: 'middle',
  weight: 'bold',
  colour: 'white',
  enter: 'fade',
} as const satisfies Partial<Title>;

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

export const titleCommands = {
  addTitle: command<{ text: string; at: At; beats: number }>('Write a title', (montage, { text, at, beats }) => {
    const lastId = montage.lastId + 1;
    const title: Title = { ...TITLE_DEFAULTS, id: `t${lastId}`, text: textOf(text), from: momentAt(montage, at), beats };
    return { ...montage, lastId, titles: [...montage.titles, title] };
  }),

  changeTitle: command<{ id: string; at?: At } & Partial<Omit<Title, 'id' | 'from'>>>(
    'Change a title',
    (montage, { id, at, text, beats, size, place, weight, colour, enter }) => {
      const old = titleNamed(montage, id);
      const title: Title = {
        id,
        text: text === undefined ? old.text : textOf(text),
        from: at ? momentAt(montage, at) : old.from,
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
