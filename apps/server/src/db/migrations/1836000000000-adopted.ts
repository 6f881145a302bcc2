import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Folders whose pictures are in the archive where they lie, and the shoots that they became. */
export class Adopted1836000000000 implements MigrationInterface {
  readonly name = 'Adopted1836000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "shoot" ADD COLUMN "keptIn" text`);
    await runner.query(`ALTER TABLE "shoot" ADD COLUMN "sidecars" boolean NOT NULL DEFAULT 1`);
    await runner.query(
      `CREATE TABLE "adopted" ("id" text PRIMARY KEY NOT NULL, "volumeId" text NOT NULL, "path" text NOT NULL,
         "rule" text NOT NULL, "sidecars" boolean NOT NULL, "createdAt" integer NOT NULL)`,
    );
    await runner.query(
      `CREATE TABLE "adopted_shoot" ("adoptedId" text NOT NULL, "key" text NOT NULL, "shootId" text NOT NULL,
         PRIMARY KEY ("adoptedId", "key"))`,
    );
    // How much is still to be read, without looking at what was.
    await runner.query(`CREATE INDEX "asset_unread" ON "asset" ("shootId") WHERE "sha256" IS NULL`);
    // What a folder holds is held against what is known of it, folder by folder.
    await runner.query(`CREATE INDEX "frame_place" ON "frame" ("place")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "frame_place"`);
    await runner.query(`DROP INDEX "asset_unread"`);
    await runner.query(`DROP TABLE "adopted_shoot"`);
    await runner.query(`DROP TABLE "adopted"`);
    await runner.query(`ALTER TABLE "shoot" DROP COLUMN "sidecars"`);
    await runner.query(`ALTER TABLE "shoot" DROP COLUMN "keptIn"`);
  }
}
