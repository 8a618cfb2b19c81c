import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Dressings are kept by name. */
export class Dressings1700000000005 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE dressing (id TEXT PRIMARY KEY, name TEXT NOT NULL, dressing TEXT NOT NULL, savedAt INTEGER NOT NULL)`);
    await runner.query(`CREATE UNIQUE INDEX dressing_name ON dressing (name)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE dressing`);
  }
}
