// What it costs that an acknowledged save is on the disk, and for how long it holds up everybody else: SQLite in WAL mode that waits for
// the disk itself (synchronous = FULL), and one that does not (NORMAL), whose log is put on the disk by another thread.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { byTurns } from './timing.mjs';

const root = resolve(import.meta.dirname, '../..');
const Database = createRequire(join(root, 'apps/server/package.json'))('better-sqlite3');
const SAVES = 200;

export async function benchSaves() {
  const folder = mkdtempSync(join(tmpdir(), 'bluster-saves-'));
  const document = readFileSync(join(root, 'demo/media/kite-day.montage.json'), 'utf8');
  const holds = { FULL: [], NORMAL: [] };
  const saving = async (mode) => {
    const file = join(folder, `${mode}.sqlite`);
    const database = new Database(file);
    database.pragma('journal_mode = WAL');
    database.pragma(`synchronous = ${mode}`);
    database.exec('CREATE TABLE IF NOT EXISTS montage (id INTEGER PRIMARY KEY, revision INTEGER, document TEXT)');
    database.prepare('INSERT OR REPLACE INTO montage VALUES (1, 0, ?)').run(document);
    if (mode === 'NORMAL') database.pragma('wal_autocheckpoint = 0');
    const save = database.prepare('UPDATE montage SET revision = revision + 1, document = ? WHERE id = 1');
    const log = mode === 'NORMAL' ? await open(`${file}-wal`, 'r+') : null;
    return async () => {
      const from = performance.now();
      for (let i = 0; i < SAVES; i++) {
        const begun = performance.now();
        save.run(document);
        holds[mode].push(performance.now() - begun);
        await log?.datasync();
      }
      return (performance.now() - from) / SAVES;
    };
  };
  const { a, b, ratio } = await byTurns(5, await saving('NORMAL'), await saving('FULL'));
  rmSync(folder, { recursive: true, force: true });
  const what = `a save of the demo (${Math.round(document.length / 1000)} kB) that is on the disk when it is acknowledged`;
  return [
    { what: `${what}, by a thread`, value: a, unit: ' ms' },
    { what: 'the same, waiting in the middle of all else', value: b, unit: ' ms' },
    { what: 'ratio', value: ratio, unit: 'x' },
    { what: `others are held up for, longest of ${holds.NORMAL.length}`, value: Math.max(...holds.NORMAL), unit: ' ms' },
    { what: 'waiting in the middle of all else, longest', value: Math.max(...holds.FULL), unit: ' ms' },
  ];
}
