import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What other programs keep in a sidecar is known, and carried to all sidecars of the frame. */
export class Foreign1828000000000 implements MigrationInterface {
  readonly name = 'Foreign1828000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "frame_text" ADD COLUMN "foreign" text`);
    await runner.query(`ALTER TABLE "own_text" ADD COLUMN "foreign" text`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "own_text" DROP COLUMN "foreign"`);
    await runner.query(`ALTER TABLE "frame_text" DROP COLUMN "foreign"`);
  }
}
