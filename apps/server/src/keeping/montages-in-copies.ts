import Database from 'better-sqlite3';
import type { Config } from '../config.ts';
import { listCopies } from './database-copies.ts';

/** A project's montage as each copy of the database has it, newest copy first. Copies that cannot be opened are passed over. */
export function montagesInCopies(config: Config, projectId: string): { document: string; savedAt: number }[] {
  return listCopies(config).flatMap((path) => {
    try {
      const database = new Database(path, { readonly: true, fileMustExist: true });
      try {
        const row = database.prepare('SELECT document, savedAt FROM montage WHERE projectId = ?').get(projectId);
        return row ? [row as { document: string; savedAt: number }] : [];
      } finally {
        database.close();
      }
    } catch {
      return [];
    }
  });
}
