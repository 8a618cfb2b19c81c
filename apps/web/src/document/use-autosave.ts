import { ROUTES } from '@bluster/wire/routes';
import { useEffect } from 'react';
import type { Montage } from '@bluster/core';
import { request, RequestError } from '../api/request.ts';
import type { SavedAnswer, SavedMontageAnswer as SavedMontage } from '@bluster/wire';
import { useEditor } from './editor.ts';
import { answered, cameFromHere, sending } from './unanswered-saves.ts';
import { keepHistory } from './history-keeper.ts';

const QUIET_MS = 220;
const RETRY_MS = 4000;

let underWay = false;
let wanted = false;

/** Saves one after the other: one sent while another is under way would name a revision that the server no longer has. */
async function saveNow(): Promise<void> {
  if (underWay) {
    wanted = true;
    return;
  }
  underWay = true;
  await sendNow();
  underWay = false;
  if (wanted && useEditor.getState().save.is === 'unsaved') void saveNow();
  wanted = false;
}

async function sendNow(): Promise<void> {
  const { projectId, history, revision, setSave } = useEditor.getState();
  if (projectId === null) return;
  const document = history.now;
  setSave({ is: 'saving' });
  sending(document);
  try {
    const saved = await request<SavedAnswer>('PUT', ROUTES.montage(projectId), { revision, document });
    answered();
    if (useEditor.getState().projectId !== projectId) return;
    // What was edited while the save was under way is not saved yet.
    const changed = useEditor.getState().history.now !== document;
    setSave(changed ? { is: 'unsaved' } : { is: 'saved', at: saved.savedAt }, saved.revision);
    void keepHistory(projectId, history, saved.revision);
  } catch (error) {
    if (error instanceof RequestError && error.status === 409) {
      const { current } = error.body as { current: SavedMontage };
      // It was saved from here, and the answer was lost: nobody else has changed anything.
      if (cameFromHere(current.document)) setSave({ is: 'unsaved' }, current.revision);
      else setSave({ is: 'conflict', current });
      answered();
    } else setSave({ is: 'failed', problem: (error as Error).message });
  }
}

/** Saves the montage soon after each edit, tries again when that fails, and holds the page open while something is unsaved. */
export function useAutosave(): void {
  const save = useEditor((state) => state.save);
  const document: Montage = useEditor((state) => state.history.now);
  useEffect(() => {
    if (save.is !== 'unsaved' && save.is !== 'failed') return;
    const timer = setTimeout(() => void saveNow(), save.is === 'failed' ? RETRY_MS : QUIET_MS);
    return () => clearTimeout(timer);
  }, [save, document]);
  useEffect(() => {
    const hold = (event: BeforeUnloadEvent): void => {
      const { is } = useEditor.getState().save;
      if (is !== 'saved') event.preventDefault();
    };
    addEventListener('beforeunload', hold);
    return () => removeEventListener('beforeunload', hold);
  }, []);
  // Another window may have saved: when this one is looked at again and has nothing unsaved, it takes the newer version.
  useEffect(() => {
    const look = async (): Promise<void> => {
      const { projectId, save: now, revision, open } = useEditor.getState();
      if (globalThis.document.visibilityState !== 'visible' || now.is !== 'saved' || !projectId) return;
      const current = await request<SavedMontage>('GET', ROUTES.montage(projectId)).catch(() => null);
      const still = useEditor.getState();
      if (
        current &&
        still.projectId === projectId &&
        still.save.is === 'saved' &&
        still.revision === revision &&
        current.revision > revision
      )
        open(projectId, current.document, current.revision, current.savedAt);
    };
    const onLook = (): void => void look();
    globalThis.document.addEventListener('visibilitychange', onLook);
    addEventListener('focus', onLook);
    return () => {
      globalThis.document.removeEventListener('visibilitychange', onLook);
      removeEventListener('focus', onLook);
    };
  }, []);
}
