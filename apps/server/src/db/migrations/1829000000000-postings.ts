import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was posted online stands in the ledger like a set that went out. */
export class Postings1829000000000 implements MigrationInterface {
  readonly name = 'Postings1829000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "delivery" ADD COLUMN "kind" text NOT NULL DEFAULT 'set'`);
    await runner.query(
      `CREATE INDEX "delivery_when" ON "delivery" ("finishedAt", "id") WHERE "finishedAt" IS NOT NULL`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "delivery_when"`);
    await runner.query(`ALTER TABLE "delivery" DROP COLUMN "kind"`);
  }
}
