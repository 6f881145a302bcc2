import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A job whose rows are still being written, in parts. */
export class Parts1801000000000 implements MigrationInterface {
  readonly name = 'Parts1801000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "job" ADD COLUMN "beginning" boolean NOT NULL DEFAULT (0)`);
    await runner.query(`CREATE INDEX "job_beginning" ON "job" ("beginning") WHERE "beginning" = 1`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "job_beginning"`);
    await runner.query(`ALTER TABLE "job" DROP COLUMN "beginning"`);
  }
}
