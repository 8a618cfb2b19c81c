import { ROUTES } from '@bluster/wire/routes';
import type { FilmWish } from '@bluster/core';
import { request } from '../api/request.ts';
import { useEditor } from '../document/editor.ts';

/** Waits until what is on the screen is what the server has. */
export function saved(): Promise<void> {
  return new Promise((resolve, reject) => {
    const look = (): boolean => {
      const { is } = useEditor.getState().save;
      if (is === 'saved') resolve();
      else if (is === 'conflict' || is === 'failed') reject(new Error('The project could not be saved, so it cannot go out yet.'));
      return is !== 'unsaved' && is !== 'saving';
    };
    if (look()) return;
    const stop = useEditor.subscribe(() => look() && stop());
  });
}

/** Asks for films, one after the other; the first that is refused ends it. */
export async function startFilms(projectId: string, wishes: readonly FilmWish[]): Promise<void> {
  await saved();
  for (const wish of wishes) await request('POST', ROUTES.exports(projectId), wish);
}
