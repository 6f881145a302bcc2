import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What each shoot's files take is kept, and counted anew where something of it has changed; and which contents more than one file has.
 * Both were looked for among all files each time that somebody asked.
 */
export class KeptSpace1842000000000 implements MigrationInterface {
  readonly name = 'KeptSpace1842000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "space_shoot" ("shootId" text PRIMARY KEY REFERENCES "shoot"("id") ON DELETE CASCADE,
        "changes" integer NOT NULL, "counted" integer, "basis" text NOT NULL DEFAULT '',
        "rejected" integer NOT NULL DEFAULT 0, "handed" integer NOT NULL DEFAULT 0, "finished" integer NOT NULL DEFAULT 0) WITHOUT ROWID`,
    );
    await runner.query(
      `CREATE TABLE "space_part" ("shootId" text NOT NULL REFERENCES "shoot"("id") ON DELETE CASCADE,
        "volumeId" text NOT NULL REFERENCES "volume"("id"), "kind" text NOT NULL, "bytes" integer NOT NULL,
        "spareFiles" integer NOT NULL, "spareBytes" integer NOT NULL, PRIMARY KEY ("shootId", "volumeId", "kind")) WITHOUT ROWID`,
    );
    await runner.query(`CREATE TABLE "shared_content" ("sha256" text PRIMARY KEY) WITHOUT ROWID`);
    await runner.query(
      `INSERT INTO "shared_content" SELECT sha256 FROM asset WHERE sha256 IS NOT NULL GROUP BY sha256 HAVING COUNT(*) > 1`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['shared_content', 'space_part', 'space_shoot'])
      await runner.query(`DROP TABLE "${table}"`);
  }
}
