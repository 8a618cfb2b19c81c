import { CommandError } from '../document/command-error.ts';
import type { Montage, Title } from '../document/montage.ts';
import { momentAt } from './moment-at.ts';

/** The montage with a title more, like another one, from a mark on. @throws CommandError where title or mark are gone */
export function copyTitle(montage: Montage, id: string, markId: string): Montage {
  const title = montage.titles.find((t) => t.id === id);
  if (!title) throw new CommandError('That title is no longer there.');
  const lastId = montage.lastId + 1;
  // An end that was set at a moment would lie before the new start.
  const { until, ...rest } = title;
  const copy: Title = { ...rest, ...(until === 'cut' ? { until } : {}), id: `t${lastId}`, from: momentAt(montage, { markId }) };
  return { ...montage, lastId, titles: [...montage.titles, copy] };
}
