import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Pictures that come back from editing: what they were made from, and where else than in a shoot's own folder they are looked for. */
export class Returns1824000000000 implements MigrationInterface {
  readonly name = 'Returns1824000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "frame" ADD COLUMN "edited" text`);
    // A view holds the columns that its table had when it was made.
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
    await runner.query(`CREATE TABLE "returned" ("assetId" text PRIMARY KEY NOT NULL, "shootId" text NOT NULL,
      "name" text NOT NULL, "at" integer NOT NULL, "state" text NOT NULL, "by" text, "among" text NOT NULL,
      "second" integer NOT NULL DEFAULT 0, "width" integer, "height" integer)`);
    await runner.query(`CREATE INDEX "returned_shoot" ON "returned" ("shootId", "at")`);
    await runner.query(`CREATE TABLE "returned_original" ("assetId" text NOT NULL, "frameId" text NOT NULL,
      PRIMARY KEY ("assetId", "frameId"))`);
    await runner.query(`CREATE INDEX "returned_original_frame" ON "returned_original" ("frameId")`);
    await runner.query(`CREATE TABLE "return_folder" ("shootId" text NOT NULL, "volumeId" text NOT NULL, "path" text NOT NULL,
      PRIMARY KEY ("shootId", "volumeId", "path"))`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['return_folder', 'returned_original', 'returned'])
      await runner.query(`DROP TABLE "${table}"`);
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`ALTER TABLE "frame" DROP COLUMN "edited"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }
}
