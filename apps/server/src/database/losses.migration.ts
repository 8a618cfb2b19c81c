import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Jobs know how often the server was lost while it worked on them. */
export class Losses1700000000004 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE job ADD COLUMN losses INTEGER NOT NULL DEFAULT 0`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE job DROP COLUMN losses`);
  }
}
