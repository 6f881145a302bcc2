import type { MigrationInterface, QueryRunner } from 'typeorm';

const ADDED = ['persons', 'texts'];

/** All that is said of a frame is a mark of it: in the history, undone, found. What was stamped at the intake is there at once. */
export class Texts1814000000000 implements MigrationInterface {
  readonly name = 'Texts1814000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of ADDED)
      await runner.query(`ALTER TABLE "frame" ADD COLUMN "${column}" text NOT NULL DEFAULT ''`);
    // A patch of nothing with what is said leaves out what is null.
    await runner.query(
      `UPDATE "frame" SET "texts" = t.texts FROM (
         SELECT "frameId" AS id, json_remove(json_patch('{}', "description"), '$.caption', '$.keywords') AS texts
         FROM "frame_text" WHERE "description" IS NOT NULL) t
       WHERE t.id = "frame"."id" AND t.texts <> '{}'`,
    );
    await runner.query(`ALTER TABLE "frame_text" DROP COLUMN "description"`);
    await view(runner);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`ALTER TABLE "frame_text" ADD COLUMN "description" text`);
    for (const column of ADDED) await runner.query(`ALTER TABLE "frame" DROP COLUMN "${column}"`);
    await view(runner);
  }
}

/** A view holds the columns that its table had when it was made. */
async function view(runner: QueryRunner): Promise<void> {
  await runner.query(`DROP VIEW IF EXISTS "frame_here"`);
  await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
}
