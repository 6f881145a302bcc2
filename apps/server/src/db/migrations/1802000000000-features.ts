import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What is measured of pictures, by picture and maker. */
export class Features1802000000000 implements MigrationInterface {
  readonly name = 'Features1802000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "feature" ("picture" text NOT NULL, "kind" text NOT NULL, "maker" integer NOT NULL,
         "data" blob NOT NULL, PRIMARY KEY ("picture", "kind")) WITHOUT ROWID`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "feature"`);
  }
}
