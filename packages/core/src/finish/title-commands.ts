import { CommandError } from '../document/command-error.ts';
import { command } from '../document/command.ts';
import type { Draft, Montage, Title } from '../document/montage.ts';
import { afterStyle, lookOf } from './styles.ts';
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

/** What a title may do without. */
const LOOSE = ['face', 'enterBeats', 'wordsOn', 'spacing', 'leading', 'outline', 'plate', 'shadow'] as const;
type Loose = (typeof LOOSE)[number];
type Loosened = { readonly [K in Loose]?: Title[K] | null } & {
  /** where the middle of its lines stands; null is where its place says */
  readonly stand?: { readonly x: number; readonly y: number } | null;
};

export const titleCommands = {
  addTitle: command<{ text: string; at: At; beats: number }>('Write a title', (montage, { text, at, beats }) => {
    const lastId = montage.lastId + 1;
    const title: Title = { ...TITLE_DEFAULTS, id: `t${lastId}`, text: textOf(text), from: momentAt(montage, at), beats };
    return { ...montage, lastId, titles: [...montage.titles, title] };
  }),

  /** null takes away what may be left out */
  changeTitle: command<
    { id: string; at?: At; until?: At | 'cut' | null } & Partial<Omit<Title, 'id' | 'from' | 'at' | 'until' | 'style' | Loose>> & Loosened
  >('Change a title', (montage, { id, at, until, text, beats, size, place, weight, colour, enter, stand, ...loose }) => {
    const old = titleNamed(montage, id);
    const title: Draft<Title> = {
      ...old,
      text: text === undefined ? old.text : textOf(text),
      from: at ? momentAt(montage, at) : old.from,
      beats: beats ?? old.beats,
      size: size ?? old.size,
      place: place ?? old.place,
      weight: weight ?? old.weight,
      colour: colour ?? old.colour,
      enter: enter ?? old.enter,
    };
    // A place that is chosen by name takes that of a title that was dragged.
    if (place !== undefined || stand === null) delete title.at;
    else if (stand) title.at = { x: stand.x, y: stand.y };
    if (until === null) delete title.until;
    else if (until !== undefined) title.until = until === 'cut' ? 'cut' : momentAt(montage, until);
    for (const key of LOOSE) {
      if (!(key in loose)) continue;
      if (loose[key] === null) delete title[key];
      else if (loose[key] !== undefined) Object.assign(title, { [key]: loose[key] });
    }
    const titles = montage.titles.map((t) => (t === old ? title : t));
    // A style is changed in one place: whatever wears it changes along.
    return title.style === undefined ? { ...montage, titles } : afterStyle({ ...montage, titles }, title.style, lookOf(title));
  }),

  removeTitles: command<{ ids: readonly string[] }>('Remove a title', (montage, { ids }) => ({
    ...montage,
    titles: montage.titles.filter((t) => !ids.includes(t.id)),
  })),
};
