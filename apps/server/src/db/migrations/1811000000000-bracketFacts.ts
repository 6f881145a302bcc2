import type { MigrationInterface, QueryRunner } from 'typeorm';

const ADDED = ['exposureBias', 'focus'];

/**
 * What brackets are told by beside aperture, time and ISO. Frames that are here already know nothing of it until they are taken in
 * anew: their files are not read again for it.
 */
export class BracketFacts1811000000000 implements MigrationInterface {
  readonly name = 'BracketFacts1811000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of ADDED) await runner.query(`ALTER TABLE "frame" ADD COLUMN "${column}" real`);
    await this.view(runner);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    for (const column of ADDED) await runner.query(`ALTER TABLE "frame" DROP COLUMN "${column}"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }

  /** A view holds the columns that its table had when it was made. */
  private async view(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }
}
