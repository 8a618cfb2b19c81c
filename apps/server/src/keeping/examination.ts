import Database from 'better-sqlite3';
import { randomUUID } from 'node:crypto';
import { existsSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { isRefusal, readMontage } from '@bluster/core';
import { UNFINISHED } from '@bluster/media/program/whole-file';
import type { AssetKind, AssetState, JobKind } from '@bluster/wire';
import { ASSET_PARTS, type AssetPart } from '../assets/asset-files.ts';
import type { Config } from '../config.ts';

/** Something in a data folder that is not as it should be. */
export interface Finding {
  /** a sentence */
  readonly says: string;
  /** puts it right without losing anything of a project's; absent where only a person can */
  readonly mend?: () => void;
}

/** What each kind of file has when it is ready; its small pictures are cut anew where they are missing. */
const PARTS: Record<AssetKind, readonly AssetPart[]> = {
  song: ['original', 'sound'],
  sound: ['original', 'sound'],
  face: ['original'],
  photo: ['original', 'photo', 'thumb'],
  clip: ['original', 'proxy', 'strip', 'look'],
};
const GONE = 'Its file is not in the data folder any more. Bring it in again, then replace it in Footage.';

interface AssetRow {
  readonly id: string;
  readonly projectId: string;
  readonly kind: AssetKind;
  readonly name: string;
  readonly state: AssetState;
}
interface JobRow {
  readonly id: string;
  readonly projectId: string;
  readonly kind: JobKind;
  readonly state: string;
  readonly payload: string;
}

/**
 * Holds database, rows and files of a data folder against each other. Nobody else may work in it: what is under way would look
 * like what was left over.
 */
export function examine(config: Config): { findings: Finding[]; close: () => void } {
  const findings = [...strayFiles(config)];
  if (!existsSync(config.databaseFile)) return { findings, close: () => undefined };
  const database = new Database(config.databaseFile);
  try {
    const sound = database.pragma('integrity_check(1)', { simple: true });
    if (sound !== 'ok') findings.push({ says: `The database is damaged: ${String(sound)}. Take a copy with ./bluster restore.` });
    else findings.push(...montages(database), ...assets(database, config), ...films(database, config));
  } catch (error) {
    database.close();
    throw error;
  }
  return { findings, close: () => database.close() };
}

/** Files that were being made when their maker was stopped, and halves of uploads. */
export function* strayFiles(config: Config, olderThan = 0, now = Date.now()): Generator<Finding> {
  const folders = [config.exportsFolder, config.backupsFolder, ...list(config.assetsFolder).map((name) => join(config.assetsFolder, name))];
  const old = (path: string): boolean => olderThan === 0 || now - statSync(path).mtimeMs > olderThan;
  for (const folder of folders)
    for (const name of list(folder)) {
      const path = join(folder, name);
      if ((UNFINISHED.test(name) || name.endsWith('.mix.wav')) && old(path))
        yield { says: `${name} was never finished.`, mend: () => rmSync(path, { force: true }) };
    }
  const uploads = join(config.incomingFolder, 'resumable');
  const names = new Set(list(uploads));
  for (const name of names) {
    const half = name.endsWith('.json') ? name.slice(0, -'.json'.length) : `${name}.json`;
    const path = join(uploads, name);
    if (!names.has(half) && old(path))
      yield { says: `The upload ${name} lacks its other half.`, mend: () => rmSync(path, { force: true }) };
  }
}

function* montages(database: Database.Database): Generator<Finding> {
  const rows = database
    .prepare('SELECT project.id, project.name, montage.document FROM project LEFT JOIN montage ON montage.projectId = project.id')
    .all() as { id: string; name: string; document: string | null }[];
  for (const { id, name, document } of rows)
    if (document === null) yield { says: `The project "${name}" (${id}) has no montage.` };
    else {
      const problem = problemOf(document);
      if (problem) yield { says: `The montage of "${name}" (${id}) cannot be read: ${problem}` };
    }
}

/** Why a document cannot be opened, or null. */
export function problemOf(document: string): string | null {
  try {
    readMontage(JSON.parse(document));
    return null;
  } catch (error) {
    return isRefusal(error) ? error.message : 'it breaks off, or was changed from outside.';
  }
}

function* assets(database: Database.Database, config: Config): Generator<Finding> {
  const rows = database.prepare('SELECT id, projectId, kind, name, state FROM asset').all() as AssetRow[];
  const known = new Set(rows.map(({ id }) => id));
  for (const name of list(config.assetsFolder))
    if (!known.has(name))
      yield {
        says: `The folder assets/${name} belongs to no file of any project.`,
        mend: () => rmSync(join(config.assetsFolder, name), { recursive: true, force: true }),
      };
  const underWay = database.prepare(`SELECT * FROM job WHERE state IN ('queued', 'running')`).all() as JobRow[];
  const worked = new Set<string>();
  for (const job of underWay) {
    const { assetId } = JSON.parse(job.payload) as { assetId?: string };
    if (assetId === undefined) continue;
    worked.add(assetId);
    if (!known.has(assetId))
      yield {
        says: `Work is waiting on a file that is gone (${assetId}).`,
        mend: () => void database.prepare('DELETE FROM job WHERE id = ?').run(job.id),
      };
  }
  const prepare = (asset: AssetRow): void => {
    database.prepare(`UPDATE asset SET state = 'working', problem = NULL WHERE id = ?`).run(asset.id);
    database
      .prepare(`INSERT INTO job (id, projectId, kind, state, progress, payload, createdAt) VALUES (?, ?, 'prepare', 'queued', 0, ?, ?)`)
      .run(randomUUID(), asset.projectId, JSON.stringify({ assetId: asset.id }), Date.now());
  };
  for (const asset of rows.filter(({ state }) => state !== 'failed')) {
    const lacks = PARTS[asset.kind].filter((part) => !existsSync(join(config.assetsFolder, asset.id, ASSET_PARTS[part])));
    if (lacks.includes('original'))
      yield {
        says: `The file of "${asset.name}" is gone.`,
        mend: () => void database.prepare(`UPDATE asset SET state = 'failed', problem = ? WHERE id = ?`).run(GONE, asset.id),
      };
    else if (asset.state === 'ready' && lacks.length > 0)
      yield { says: `"${asset.name}" lacks ${lacks.join(' and ')}; it is made ready again.`, mend: () => prepare(asset) };
    else if (asset.state === 'working' && !worked.has(asset.id))
      yield { says: `Nobody works on "${asset.name}", which is not ready.`, mend: () => prepare(asset) };
  }
}

/** Films of exports that nobody knows any more. */
function* films(database: Database.Database, config: Config): Generator<Finding> {
  const known = new Set((database.prepare(`SELECT id FROM job WHERE kind = 'export'`).all() as { id: string }[]).map(({ id }) => id));
  for (const name of list(config.exportsFolder))
    if (!known.has(name.split('.')[0]!) && !UNFINISHED.test(name) && !name.endsWith('.mix.wav'))
      yield {
        says: `The film exports/${name} belongs to no project.`,
        mend: () => rmSync(join(config.exportsFolder, name), { force: true }),
      };
}

const list = (folder: string): string[] => (existsSync(folder) ? readdirSync(folder) : []);
