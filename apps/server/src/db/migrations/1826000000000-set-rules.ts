import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A set of finished files knows which of the keepers it is of. */
export class SetRules1826000000000 implements MigrationInterface {
  readonly name = 'SetRules1826000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "delivery" ADD COLUMN "line" text NOT NULL DEFAULT ''`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "delivery" DROP COLUMN "line"`);
  }
}
