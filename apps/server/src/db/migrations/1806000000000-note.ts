import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A note on a frame, to whoever edits it: a mark like the others. */
export class Note1806000000000 implements MigrationInterface {
  readonly name = 'Note1806000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "frame" ADD COLUMN "note" text`);
    // A view holds the columns that its table had when it was made.
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`ALTER TABLE "frame" DROP COLUMN "note"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }
}
