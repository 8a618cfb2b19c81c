import { createStore, del, get, set } from 'idb-keyval';
import type { History } from '@bluster/core';
import { type KeptHistory, keptOf } from './kept-history.ts';

const store = createStore('bluster-history', 'projects');

/** Keeps a history in the browser, so that undo survives a reload. Best effort: without room nothing is kept. */
export async function keepHistory(projectId: string, history: History, revision: number): Promise<void> {
  await set(projectId, keptOf(history, revision), store).catch(() => del(projectId, store).catch(() => undefined));
}

/** What the browser keeps of a project's history; it takes a while to open its store, so ask early. */
export function keptSteps(projectId: string): Promise<KeptHistory | undefined> {
  return get<KeptHistory>(projectId, store).catch(() => undefined);
}
