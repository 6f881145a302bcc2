import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A view keeps the columns that its table had when it was made. */
const HERE = `CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`;

/** The frame that a frame is a copy of. */
export class Derived1818000000000 implements MigrationInterface {
  readonly name = 'Derived1818000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "frame" ADD COLUMN "derivedFrom" text`);
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(HERE);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`ALTER TABLE "frame" DROP COLUMN "derivedFrom"`);
    await runner.query(HERE);
  }
}
