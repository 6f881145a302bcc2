import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Somebody has seen how a job ended: it asks for nobody's attention any more. */
export class Seen1798000000000 implements MigrationInterface {
  name = 'Seen1798000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "job" ADD COLUMN "seen" boolean NOT NULL DEFAULT 0`);
  }

  async down(): Promise<void> {
    throw new Error('Migrations go forward only; the copy made before is the way back.');
  }
}
