import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Albums: lasting sets of frames over all shoots, in each other. A frame says which it is in, and where it stands there. */
export class Albums1816000000000 implements MigrationInterface {
  readonly name = 'Albums1816000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "album" ("id" text PRIMARY KEY, "name" text NOT NULL, "parent" text, "place" text NOT NULL,
        "rule" text, "lead" text, "removed" boolean NOT NULL)`,
    );
    await runner.query(`ALTER TABLE "frame" ADD COLUMN "albums" text NOT NULL DEFAULT ''`);
    await runner.query(`CREATE INDEX "frame_in_albums" ON "frame" ("albums") WHERE "albums" <> ''`);
    // A view holds the columns that its table had when it was made.
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP VIEW "frame_here"`);
    await runner.query(`DROP INDEX "frame_in_albums"`);
    await runner.query(`ALTER TABLE "frame" DROP COLUMN "albums"`);
    await runner.query(`CREATE VIEW "frame_here" AS SELECT * FROM "frame" WHERE "state" = 'here'`);
    await runner.query(`DROP TABLE "album"`);
  }
}
