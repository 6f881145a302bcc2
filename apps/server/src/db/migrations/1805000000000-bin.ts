import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was binned or forgotten leaves the tables of files and copies, so that it counts and proves nothing. */
export class Bin1805000000000 implements MigrationInterface {
  readonly name = 'Bin1805000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "bin" ("id" text PRIMARY KEY, "deed" text NOT NULL CHECK ("deed" IN ('bin', 'forget')),
         "shootId" text NOT NULL REFERENCES "shoot"("id"), "folder" text NOT NULL, "at" integer NOT NULL)`,
    );
    await runner.query(
      `CREATE TABLE "binned_frame" ("frameId" text PRIMARY KEY REFERENCES "frame"("id"),
         "binId" text NOT NULL REFERENCES "bin"("id")) WITHOUT ROWID`,
    );
    await runner.query(`CREATE INDEX "binned_frame_bin" ON "binned_frame" ("binId")`);
    await runner.query(
      `CREATE TABLE "binned_file" ("assetId" text PRIMARY KEY, "frameId" text NOT NULL REFERENCES "frame"("id"),
         "role" text NOT NULL, "format" text NOT NULL, "raw" boolean NOT NULL, "sha256" text, "ends" text, "picture" text,
         "size" integer NOT NULL, "cardPath" text NOT NULL, "at" text NOT NULL) WITHOUT ROWID`,
    );
    await runner.query(`CREATE INDEX "binned_file_frame" ON "binned_file" ("frameId")`);
    await runner.query(
      `CREATE TABLE "binned_copy" ("assetId" text NOT NULL, "volumeId" text NOT NULL REFERENCES "volume"("id"),
         "frameId" text NOT NULL, "binId" text NOT NULL, "path" text NOT NULL, "sha256" text, "size" integer,
         "verifiedAt" integer, "pastCache" boolean NOT NULL, "due" text CHECK ("due" IN ('bin', 'back', 'delete')),
         PRIMARY KEY ("assetId", "volumeId")) WITHOUT ROWID`,
    );
    await runner.query(`CREATE INDEX "binned_copy_frame" ON "binned_copy" ("frameId")`);
    await runner.query(
      `CREATE INDEX "binned_copy_due" ON "binned_copy" ("volumeId") WHERE "due" IS NOT NULL`,
    );
    await runner.query(
      `CREATE INDEX "frame_gone" ON "frame" ("shootId") WHERE "state" IN ('binned', 'forgotten')`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "frame_gone"`);
    for (const table of ['binned_copy', 'binned_file', 'binned_frame', 'bin'])
      await runner.query(`DROP TABLE "${table}"`);
  }
}
