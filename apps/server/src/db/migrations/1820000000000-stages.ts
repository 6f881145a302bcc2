import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Where a keeper stands between hand-off and delivery: a mark like the others. Few frames of an archive have one. */
export class Stages1820000000000 implements MigrationInterface {
  readonly name = 'Stages1820000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "frame" ADD COLUMN "stage" text`);
    await runner.query(
      `CREATE INDEX "frame_staged" ON "frame" ("shootId", "stage") WHERE "stage" IS NOT NULL`,
    );
    // A view holds the columns that its table had when it was made.
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`DROP INDEX "frame_staged"`);
    await runner.query(`ALTER TABLE "frame" DROP COLUMN "stage"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }
}
