import type { MigrationInterface, QueryRunner } from 'typeorm';

const ADDED = ['"detail" text', '"sharpness" real', '"voice" text'];

/** What is found out of a frame's files after it came: how much of them is seen, how sharp that is, a voice note. */
export class Measured1807000000000 implements MigrationInterface {
  readonly name = 'Measured1807000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of ADDED) await runner.query(`ALTER TABLE "frame" ADD COLUMN ${column}`);
    // By the rule of a frame that comes now; what was developed is found out when its preview is made anew.
    await runner.query(
      `UPDATE "frame" SET "detail" = (SELECT CASE WHEN a.role = 'clip' THEN 'poster' WHEN a.raw THEN 'embedded'
         WHEN a.format IN ('jxl', 'jp2') THEN 'embedded' ELSE 'full' END FROM "asset" a WHERE a.id = "frame"."shownBy")
       WHERE "shownBy" IS NOT NULL`,
    );
    await runner.query(
      `UPDATE "frame" SET "voice" = 'voice note'
       WHERE "id" IN (SELECT "frameId" FROM "asset" WHERE "role" = 'note' AND "frameId" IS NOT NULL)`,
    );
    // A view holds the columns that its table had when it was made.
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    for (const column of ['detail', 'sharpness', 'voice'])
      await runner.query(`ALTER TABLE "frame" DROP COLUMN "${column}"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }
}
