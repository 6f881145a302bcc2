import type { MigrationInterface, QueryRunner } from 'typeorm';

const ADDED = ['"take" text', '"close" real', '"dx" real', '"dy" real', '"closeTo" text'];

/** What takes are made from: how much frames look like the one before, and what a person said of their place. */
export class Takes1809000000000 implements MigrationInterface {
  readonly name = 'Takes1809000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of ADDED) await runner.query(`ALTER TABLE "frame" ADD COLUMN ${column}`);
    // A view holds the columns that its table had when it was made.
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    for (const column of ['take', 'close', 'dx', 'dy', 'closeTo'])
      await runner.query(`ALTER TABLE "frame" DROP COLUMN "${column}"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }
}
