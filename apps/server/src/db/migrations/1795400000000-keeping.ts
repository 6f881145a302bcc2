import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Places of frames, described frames, damaged copies, merged shoots, lanes with priority, and finding a known frame. */
const STATEMENTS = [
  `ALTER TABLE "frame" ADD COLUMN "place" text NOT NULL DEFAULT ''`,
  `UPDATE "frame" SET "place" = "folder" || '/' ||
    (SELECT json_extract("plan", '$.originals') FROM "shoot" WHERE "shoot"."id" = "frame"."shootId")`,
  `ALTER TABLE "frame" ADD COLUMN "description" text`,
  `CREATE INDEX "frame_local" ON "frame" ("local", "millis")`,
  `CREATE INDEX "asset_size" ON "asset" ("size")`,
  `ALTER TABLE "shoot" ADD COLUMN "seqBy" text NOT NULL DEFAULT 'shoot'`,
  `ALTER TABLE "job" ADD COLUMN "priority" integer NOT NULL DEFAULT 0`,
  `ALTER TABLE "shoot" ADD COLUMN "mergedInto" text`,
  `CREATE TABLE "damage" ("volumeId" text NOT NULL REFERENCES "volume"("id"), "path" text NOT NULL,
    "assetId" text NOT NULL REFERENCES "asset"("id"), "found" text, "reason" text NOT NULL, "at" integer NOT NULL,
    PRIMARY KEY ("volumeId", "path"))`,
  `CREATE INDEX "damage_asset" ON "damage" ("assetId")`,
];

export class Keeping1795400000000 implements MigrationInterface {
  name = 'Keeping1795400000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
  }

  async down(): Promise<void> {
    throw new Error('Migrations go forward only; the copy made before is the way back.');
  }
}
