import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Piles: named sets of frames over all shoots. A frame says which it is in, as it says its other marks. */
export class Piles1803000000000 implements MigrationInterface {
  readonly name = 'Piles1803000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "pile" ("id" text PRIMARY KEY, "name" text NOT NULL, "number" integer, "removed" boolean NOT NULL)`,
    );
    await runner.query(`CREATE UNIQUE INDEX "pile_number" ON "pile" ("number") WHERE "number" IS NOT NULL`);
    await runner.query(`ALTER TABLE "frame" ADD COLUMN "piles" text NOT NULL DEFAULT ''`);
    await runner.query(`CREATE INDEX "frame_piled" ON "frame" ("piles") WHERE "piles" <> ''`);
    // A view holds the columns that its table had when it was made.
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`DROP INDEX "frame_piled"`);
    await runner.query(`ALTER TABLE "frame" DROP COLUMN "piles"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
    await runner.query(`DROP TABLE "pile"`);
  }
}
