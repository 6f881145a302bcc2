import type { MigrationInterface, QueryRunner } from 'typeorm';

const STATEMENTS = [
  `CREATE TABLE "volume" ("id" text PRIMARY KEY, "name" text NOT NULL, "root" text NOT NULL, "role" text NOT NULL,
    "device" text NOT NULL, "addedAt" integer NOT NULL)`,
  `CREATE TABLE "reader" ("id" text PRIMARY KEY, "name" text NOT NULL, "root" text NOT NULL)`,
  `CREATE TABLE "shoot" ("id" text PRIMARY KEY, "title" text NOT NULL, "date" text NOT NULL, "client" text NOT NULL,
    "place" text NOT NULL, "folders" text NOT NULL, "plan" text NOT NULL, "pattern" text NOT NULL,
    "nextSeq" integer NOT NULL, "zoneMinutes" integer NOT NULL, "createdAt" integer NOT NULL, "revision" integer NOT NULL)`,
  `CREATE TABLE "frame" ("id" text PRIMARY KEY, "shootId" text NOT NULL REFERENCES "shoot"("id"), "state" text NOT NULL,
    "name" text NOT NULL, "original" text NOT NULL, "folder" text NOT NULL, "verdict" text NOT NULL,
    "stars" integer NOT NULL CHECK ("stars" BETWEEN 0 AND 5), "label" text, "instant" integer, "local" text,
    "millis" integer NOT NULL, "offsetMinutes" integer, "correctionMillis" integer NOT NULL, "body" text, "serial" text,
    "lens" text, "aperture" real, "apertureText" text, "exposure" real, "exposureText" text, "iso" integer,
    "focalLength" real, "width" integer, "height" integer, "orientation" integer NOT NULL, "format" text NOT NULL,
    "markedAt" integer NOT NULL, "sidecarDue" integer NOT NULL, "sidecarBase" text)`,
  `CREATE INDEX "frame_shoot" ON "frame" ("shootId", "instant")`,
  `CREATE INDEX "frame_due" ON "frame" ("id") WHERE "sidecarDue" > 0`,
  `CREATE TABLE "asset" ("id" text PRIMARY KEY, "shootId" text NOT NULL REFERENCES "shoot"("id"),
    "frameId" text REFERENCES "frame"("id"), "role" text NOT NULL, "sha256" text NOT NULL, "size" integer NOT NULL,
    "path" text NOT NULL, "cardPath" text NOT NULL)`,
  `CREATE INDEX "asset_sha256" ON "asset" ("sha256")`,
  `CREATE INDEX "asset_frame" ON "asset" ("frameId")`,
  `CREATE TABLE "copy" ("id" text PRIMARY KEY, "assetId" text NOT NULL REFERENCES "asset"("id"),
    "volumeId" text NOT NULL REFERENCES "volume"("id"), "path" text NOT NULL, "verifiedAt" integer NOT NULL,
    "pastCache" boolean NOT NULL)`,
  `CREATE UNIQUE INDEX "copy_place" ON "copy" ("volumeId", "path")`,
  `CREATE INDEX "copy_asset" ON "copy" ("assetId")`,
  `CREATE TABLE "own_text" ("volumeId" text NOT NULL, "path" text NOT NULL, "sha256" text NOT NULL,
    PRIMARY KEY ("volumeId", "path"))`,
  `CREATE TABLE "mark" ("seq" integer PRIMARY KEY AUTOINCREMENT, "id" text NOT NULL, "frameId" text NOT NULL,
    "field" text NOT NULL, "from" text, "to" text, "at" integer NOT NULL, "group" text NOT NULL, "window" text NOT NULL,
    "overtook" integer NOT NULL)`,
  `CREATE UNIQUE INDEX "mark_id" ON "mark" ("id")`,
  `CREATE INDEX "mark_frame" ON "mark" ("frameId")`,
  `CREATE TABLE "job" ("id" text PRIMARY KEY, "kind" text NOT NULL, "title" text NOT NULL, "shootId" text,
    "state" text NOT NULL, "reason" text, "params" text NOT NULL, "result" text, "filesTotal" integer NOT NULL,
    "bytesTotal" integer NOT NULL, "createdAt" integer NOT NULL, "startedAt" integer, "finishedAt" integer)`,
  `CREATE TABLE "job_item" ("jobId" text NOT NULL REFERENCES "job"("id"), "seq" integer NOT NULL, "state" text NOT NULL,
    "reason" text, "attempt" integer NOT NULL, "size" integer NOT NULL, "data" text NOT NULL, PRIMARY KEY ("jobId", "seq"))`,
  `CREATE INDEX "job_item_state" ON "job_item" ("jobId", "state")`,
  `CREATE TABLE "setting" ("key" text PRIMARY KEY, "value" text NOT NULL)`,
];

export class Beginning1795000000000 implements MigrationInterface {
  name = 'Beginning1795000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
  }

  async down(): Promise<void> {
    throw new Error('Migrations go forward only; the copy made before is the way back.');
  }
}
