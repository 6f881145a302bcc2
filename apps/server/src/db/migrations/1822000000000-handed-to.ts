import type { MigrationInterface, QueryRunner } from 'typeorm';

/** To whom keepers were handed. */
export class HandedTo1822000000000 implements MigrationInterface {
  readonly name = 'HandedTo1822000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "handoff" ADD COLUMN "person" text NOT NULL DEFAULT ''`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "handoff" DROP COLUMN "person"`);
  }
}
