import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What lies with editing by now: each file that was handed off to a drive and not taken back, and what its sidecar said last. What was
 * handed off so far is there, the newest word on each place.
 */
export class Handed1821000000000 implements MigrationInterface {
  readonly name = 'Handed1821000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "handed" ("volumeId" text NOT NULL, "path" text NOT NULL, "shootId" text NOT NULL, "frameId" text NOT NULL,
         "handoffId" text NOT NULL, "sha256" text, "size" integer NOT NULL, "said" text, PRIMARY KEY ("volumeId", "path")) WITHOUT ROWID`,
    );
    await runner.query(`CREATE INDEX "handed_shoot" ON "handed" ("shootId", "volumeId")`);
    await runner.query(`CREATE INDEX "handed_frame" ON "handed" ("frameId")`);
    await runner.query(
      `INSERT OR REPLACE INTO "handed" SELECT h."volumeId", f."to", h."shootId", f."frameId", h.id, f.sha256, f.size, NULL
       FROM "handoff_file" f JOIN "handoff" h ON h.id = f."handoffId"
       WHERE f.fate = 'copied' AND f."frameId" IS NOT NULL AND h."finishedAt" IS NOT NULL ORDER BY h.at, f.seq`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "handed"`);
  }
}
