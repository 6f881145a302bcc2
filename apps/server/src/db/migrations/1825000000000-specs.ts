import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A delivery makes files by several specs: those of one frame together. */
export class Specs1825000000000 implements MigrationInterface {
  readonly name = 'Specs1825000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of ['item', 'spec'])
      await runner.query(`ALTER TABLE "delivery_file" ADD COLUMN "${column}" integer NOT NULL DEFAULT 0`);
    // Before, each file was an item of its own.
    await runner.query(`UPDATE "delivery_file" SET "item" = "seq"`);
    await runner.query(`CREATE INDEX "delivery_file_item" ON "delivery_file" ("deliveryId", "item")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "delivery_file_item"`);
    for (const column of ['item', 'spec'])
      await runner.query(`ALTER TABLE "delivery_file" DROP COLUMN "${column}"`);
  }
}
