import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A pass goes with its frames into another shoot: places of those that were seen are of one arrangement of them. */
export class ArrangedPasses1846000000000 implements MigrationInterface {
  readonly name = 'ArrangedPasses1846000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "pass" ADD COLUMN "arranged" integer NOT NULL DEFAULT 0`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "pass" DROP COLUMN "arranged"`);
  }
}
