import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The first layout of the database. */
export class First1700000000001 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    for (const sql of [
      `CREATE TABLE project (id TEXT PRIMARY KEY, name TEXT NOT NULL, createdAt INTEGER NOT NULL, updatedAt INTEGER NOT NULL, deletedAt INTEGER, demo BOOLEAN NOT NULL DEFAULT 0)`,
      `CREATE TABLE montage (projectId TEXT PRIMARY KEY REFERENCES project(id) ON DELETE CASCADE, revision INTEGER NOT NULL, document TEXT NOT NULL, savedAt INTEGER NOT NULL)`,
      `CREATE TABLE kept_version (id TEXT PRIMARY KEY, projectId TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE, revision INTEGER NOT NULL, document TEXT NOT NULL, savedAt INTEGER NOT NULL, reason TEXT NOT NULL)`,
      `CREATE INDEX kept_version_project ON kept_version (projectId)`,
      `CREATE TABLE asset (id TEXT PRIMARY KEY, projectId TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE, kind TEXT NOT NULL, name TEXT NOT NULL, size INTEGER NOT NULL, state TEXT NOT NULL, problem TEXT, info TEXT NOT NULL, createdAt INTEGER NOT NULL)`,
      `CREATE INDEX asset_project ON asset (projectId)`,
      `CREATE TABLE job (id TEXT PRIMARY KEY, projectId TEXT NOT NULL REFERENCES project(id) ON DELETE CASCADE, kind TEXT NOT NULL, state TEXT NOT NULL, progress REAL NOT NULL, problem TEXT, payload TEXT NOT NULL, result TEXT, createdAt INTEGER NOT NULL, startedAt INTEGER, endedAt INTEGER)`,
      `CREATE INDEX job_project ON job (projectId)`,
    ])
      await runner.query(sql);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['job', 'asset', 'kept_version', 'montage', 'project']) await runner.query(`DROP TABLE ${table}`);
  }
}
