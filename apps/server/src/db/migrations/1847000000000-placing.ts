import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was about to be put in the place of a text is known before it is there. */
export class Placing1847000000000 implements MigrationInterface {
  readonly name = 'Placing1847000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "own_text" ADD COLUMN "placing" text`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "own_text" DROP COLUMN "placing"`);
  }
}
