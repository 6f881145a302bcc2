import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Passes over several shoots: what lies in each of them. */
export class PassParts1808000000000 implements MigrationInterface {
  readonly name = 'PassParts1808000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "pass_part" ("passId" text NOT NULL REFERENCES "pass"("id"), "shootId" text NOT NULL REFERENCES "shoot"("id"),
         "ordinal" integer NOT NULL, "frames" integer NOT NULL, "kept" integer NOT NULL, "rejected" integer NOT NULL,
         PRIMARY KEY ("passId", "shootId")) WITHOUT ROWID`,
    );
    await runner.query(`CREATE INDEX "pass_part_shoot" ON "pass_part" ("shootId")`);
    await runner.query(
      `INSERT INTO "pass_part" SELECT "id", "shootId", 0, "total", "kept", "rejected" FROM "pass"`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "pass_part"`);
  }
}
