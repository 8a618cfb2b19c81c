import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Assets know the hash of their file, so that the same file is kept once. */
export class Hash1700000000002 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE asset ADD COLUMN hash TEXT`);
    await runner.query(`CREATE INDEX asset_hash ON asset (projectId, hash)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX asset_hash`);
    await runner.query(`ALTER TABLE asset DROP COLUMN hash`);
  }
}
