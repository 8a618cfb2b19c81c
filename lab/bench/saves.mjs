// What it costs that an acknowledged save is on the disk: SQLite with synchronous = FULL against NORMAL, both in WAL mode.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
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
  const saving = (mode) => {
    const database = new Database(join(folder, `${mode}.sqlite`));
    database.pragma('journal_mode = WAL');
    database.pragma(`synchronous = ${mode}`);
    database.exec('CREATE TABLE IF NOT EXISTS montage (id INTEGER PRIMARY KEY, revision INTEGER, document TEXT)');
    database.prepare('INSERT OR REPLACE INTO montage VALUES (1, 0, ?)').run(document);
    const save = database.prepare('UPDATE montage SET revision = revision + 1, document = ? WHERE id = 1');
    return async () => {
      const from = performance.now();
      for (let i = 0; i < SAVES; i++) save.run(document);
      return (performance.now() - from) / SAVES;
    };
  };
  const { a, b, ratio } = await byTurns(5, saving('FULL'), saving('NORMAL'));
  rmSync(folder, { recursive: true, force: true });
  return [
    {
      what: `a save of the demo (${Math.round(document.length / 1000)} kB) that is on the disk when it is acknowledged`,
      value: a,
      unit: ' ms',
    },
    { what: 'the same, which a power cut may take back', value: b, unit: ' ms' },
    { what: 'ratio', value: ratio, unit: 'x' },
  ];
}
