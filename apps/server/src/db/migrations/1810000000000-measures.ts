import type { MigrationInterface, QueryRunner } from 'typeorm';

const ADDED = ['"measures" text', '"advice" text NOT NULL DEFAULT \'\''];

/**
 * More is measured of pictures than how sharp they are, and that by another measure, free of exposure: what the
 * earlier one found goes, and is made again from the preview where someone asks for it.
 */
export class Measures1810000000000 implements MigrationInterface {
  readonly name = 'Measures1810000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of ADDED) await runner.query(`ALTER TABLE "frame" ADD COLUMN ${column}`);
    await runner.query(`UPDATE "frame" SET "sharpness" = NULL WHERE "sharpness" IS NOT NULL`);
    await runner.query(`DELETE FROM "feature" WHERE "kind" = 'sharpness'`);
    // A view holds the columns that its table had when it was made.
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    for (const column of ['measures', 'advice'])
      await runner.query(`ALTER TABLE "frame" DROP COLUMN "${column}"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }
}
