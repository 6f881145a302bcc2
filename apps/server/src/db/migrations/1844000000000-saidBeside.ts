import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What other programs' sidecars of single files said when they were looked at last. */
export class SaidBeside1844000000000 implements MigrationInterface {
  readonly name = 'SaidBeside1844000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "own_text" ADD COLUMN "said" text`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "own_text" DROP COLUMN "said"`);
  }
}
