import type { MigrationInterface, QueryRunner } from 'typeorm';

/** How frames are finished: values in one text, a mark like the others. Few frames of an archive have any. */
export class Finishing1830000000000 implements MigrationInterface {
  readonly name = 'Finishing1830000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "frame" ADD COLUMN "finish" text NOT NULL DEFAULT ''`);
    // A view holds the columns that its table had when it was made.
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`ALTER TABLE "frame" DROP COLUMN "finish"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }
}
