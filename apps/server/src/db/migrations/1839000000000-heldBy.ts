import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Whose a drive was until this archive made it its own, and what was left on it is not taken in yet. */
export class HeldBy1839000000000 implements MigrationInterface {
  readonly name = 'HeldBy1839000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "volume" ADD COLUMN "heldBy" text`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "volume" DROP COLUMN "heldBy"`);
  }
}
