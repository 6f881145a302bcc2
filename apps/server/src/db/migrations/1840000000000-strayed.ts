import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was put out of the archive is found by its content, where somebody gave it another name or folder since. */
export class Strayed1840000000000 implements MigrationInterface {
  readonly name = 'Strayed1840000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE INDEX "binned_file_ends" ON "binned_file" ("ends") WHERE "ends" IS NOT NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "binned_file_ends"`);
  }
}
