import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The frames that somebody chose to stand for a shoot. */
export class ChosenLeads1817000000000 implements MigrationInterface {
  readonly name = 'ChosenLeads1817000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "shoot" ADD COLUMN "chosenLeads" text`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "shoot" DROP COLUMN "chosenLeads"`);
  }
}
