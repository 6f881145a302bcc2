import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A set of finished files can be brought up to date, and hold raws, a proof sheet and a bag. */
export class RemadeSets1827000000000 implements MigrationInterface {
  readonly name = 'RemadeSets1827000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "delivery" ADD COLUMN "follows" text`);
    await runner.query(
      `ALTER TABLE "delivery" ADD COLUMN "along" text NOT NULL DEFAULT '{"raws":null,"sheet":false,"bag":false}'`,
    );
    await runner.query(`ALTER TABLE "delivery" ADD COLUMN "texts" text NOT NULL DEFAULT '[]'`);
    await runner.query(`ALTER TABLE "delivery_file" ADD COLUMN "recipe" text`);
    await runner.query(`ALTER TABLE "delivery_file" ADD COLUMN "number" integer NOT NULL DEFAULT 0`);
    // Until now a frame's number was that of its item.
    await runner.query(`UPDATE "delivery_file" SET "number" = "item" + 1`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const column of ['number', 'recipe'])
      await runner.query(`ALTER TABLE "delivery_file" DROP COLUMN "${column}"`);
    for (const column of ['texts', 'along', 'follows'])
      await runner.query(`ALTER TABLE "delivery" DROP COLUMN "${column}"`);
  }
}
