import type { MigrationInterface, QueryRunner } from 'typeorm';

const ADDED = ['"caption" text', '"keywords" text NOT NULL DEFAULT \'\''];

/** Captions and keywords are marks of a frame: filtered by, in the history, undone. What was stamped at the intake is there at once. */
export class Words1813000000000 implements MigrationInterface {
  readonly name = 'Words1813000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of ADDED) await runner.query(`ALTER TABLE "frame" ADD COLUMN ${column}`);
    await runner.query(
      `UPDATE "frame" SET "caption" = t.caption, "keywords" = t.keywords FROM (
         SELECT "frameId" AS id, NULLIF(TRIM(json_extract("description", '$.caption')), '') AS caption,
           COALESCE((SELECT group_concat(value, char(10)) FROM json_each("description", '$.keywords')), '') AS keywords
         FROM "frame_text" WHERE "description" IS NOT NULL) t
       WHERE t.id = "frame"."id" AND (t.caption IS NOT NULL OR t.keywords <> '')`,
    );
    await this.view(runner);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    for (const column of ['caption', 'keywords'])
      await runner.query(`ALTER TABLE "frame" DROP COLUMN "${column}"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }

  /** A view holds the columns that its table had when it was made. */
  private async view(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }
}
