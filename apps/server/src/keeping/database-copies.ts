import Database from 'better-sqlite3';
import { copyFileSync, existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { Refusal } from '@bluster/core';
import { makeWhole } from '@bluster/media/program/whole-file';
import type { Config } from '../config.ts';
import { MIGRATIONS } from '../database/migrations.ts';

/** Raised where a database cannot be used; the message says why and what to do. */
export class DatabaseProblem extends Refusal {}

const KEPT = 10;
const A_DAY_MS = 24 * 3600_000;
const COPY = /^bluster-\d{4}-\d\d-\d\dT\d\d-\d\d-\d\d-\d{3}\.sqlite$/;
const RESTORE = 'Take a copy with ./bluster restore; ./bluster backup --list names them.';

/** The copies of a data folder's database, newest first. */
export function listCopies(config: Config): string[] {
  if (!existsSync(config.backupsFolder)) return [];
  return readdirSync(config.backupsFolder)
    .filter((name) => COPY.test(name))
    .sort()
    .reverse()
    .map((name) => join(config.backupsFolder, name));
}

/** Copies the database while it is in use (SQLite's online backup), and removes all but the last ten. Returns where it lies. */
export async function copyDatabase(config: Config, to?: string): Promise<string> {
  mkdirSync(config.backupsFolder, { recursive: true });
  const target = to ?? join(config.backupsFolder, `bluster-${new Date().toISOString().replace(/[:.]/g, '-').replace('Z', '')}.sqlite`);
  const database = new Database(config.databaseFile, { readonly: true, fileMustExist: true });
  try {
    await makeWhole(target, (unfinished) => database.backup(unfinished));
  } finally {
    database.close();
  }
  for (const old of listCopies(config).slice(KEPT)) rmSync(old, { force: true });
  return target;
}

/** Copies the database where the newest copy is older than a day; null where there is no need to. */
export async function copyDaily(config: Config, now = Date.now()): Promise<string | null> {
  const [newest] = listCopies(config);
  if (!existsSync(config.databaseFile) || (newest && now - statSync(newest).mtimeMs < A_DAY_MS)) return null;
  return copyDatabase(config);
}

/**
 * Looks at the database before anything else opens it.
 * @returns whether steps are due that it has not taken yet
 * @throws DatabaseProblem where it is damaged, or made by a newer Bluster
 */
export function stepsAreDue(config: Config): boolean {
  if (!existsSync(config.databaseFile) || statSync(config.databaseFile).size === 0) return false;
  const taken = stepsTaken(config.databaseFile);
  const known = MIGRATIONS.map((step) => step.name);
  const newer = taken.filter((name) => !known.includes(name));
  if (newer.length > 0)
    throw new DatabaseProblem(
      `The projects in ${config.dataFolder} were kept by a newer Bluster (its database has taken the step ${newer.at(-1)}). Start that one; this one changes nothing.`,
    );
  return taken.length > 0 && taken.length < known.length;
}

/** Names of the steps that a database has taken. @throws DatabaseProblem where it is no sound database */
function stepsTaken(file: string): string[] {
  let database: Database.Database | null = null;
  try {
    database = new Database(file, { fileMustExist: true });
    const problem = database.pragma('quick_check(1)', { simple: true });
    if (problem !== 'ok') throw new DatabaseProblem(`The database ${file} is damaged. ${RESTORE}`);
    const there = database.prepare(`SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = 'migrations'`).get();
    if (!there) return [];
    return (database.prepare('SELECT name FROM migrations ORDER BY timestamp').all() as { name: string }[]).map(({ name }) => name);
  } catch (error) {
    const { code } = error as { code?: string };
    if (code === 'SQLITE_CORRUPT' || code === 'SQLITE_NOTADB') throw new DatabaseProblem(`The database ${file} is damaged. ${RESTORE}`);
    throw error;
  } finally {
    database?.close();
  }
}

/**
 * Puts a copy in the database's place; the folder must be held. What was there is kept beside the copies.
 * @returns where what was there lies now, or null where there was nothing
 * @throws DatabaseProblem where the copy is no sound database of this or an older Bluster
 */
export async function restoreDatabase(config: Config, copy: string): Promise<string | null> {
  if (!existsSync(copy)) throw new DatabaseProblem(`There is no file ${copy}. ./bluster backup --list names the copies that there are.`);
  const known = MIGRATIONS.map((step) => step.name);
  const taken = stepsTaken(copy);
  if (taken.length === 0) throw new DatabaseProblem(`${copy} is no copy of Bluster's database.`);
  const newer = taken.filter((name) => !known.includes(name));
  if (newer.length > 0) throw new DatabaseProblem(`${copy} was made by a newer Bluster (step ${newer.at(-1)}).`);
  mkdirSync(config.backupsFolder, { recursive: true });
  let kept: string | null = null;
  if (existsSync(config.databaseFile)) {
    kept = join(config.backupsFolder, `replaced-${new Date().toISOString().replace(/[:.]/g, '-')}.sqlite`);
    // With what its log still holds.
    for (const ending of ['', '-wal', '-shm'])
      if (existsSync(config.databaseFile + ending)) renameSync(config.databaseFile + ending, kept + ending);
  }
  await makeWhole(config.databaseFile, (unfinished) => Promise.resolve(copyFileSync(copy, unfinished)));
  return kept;
}
