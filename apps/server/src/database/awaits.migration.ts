import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Assets know whether they are still to be taken into their project's montage. */
export class Awaits1700000000003 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE asset ADD COLUMN awaits BOOLEAN NOT NULL DEFAULT 0`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE asset DROP COLUMN awaits`);
  }
}
