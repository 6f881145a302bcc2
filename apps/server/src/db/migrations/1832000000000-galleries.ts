import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Pictures shown to clients, who may see them, and what they said. */
export class Galleries1832000000000 implements MigrationInterface {
  readonly name = 'Galleries1832000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "gallery" ("id" text PRIMARY KEY NOT NULL, "shootId" text NOT NULL, "title" text NOT NULL,
         "words" text NOT NULL DEFAULT (''), "line" text NOT NULL, "look" text NOT NULL, "deliveryId" text, "most" integer,
         "becomes" text, "until" integer, "at" integer NOT NULL, "jobId" text NOT NULL, "madeAt" integer,
         "closedAt" integer)`,
    );
    await runner.query(`CREATE INDEX "gallery_of_shoot" ON "gallery" ("shootId")`);
    await runner.query(
      `CREATE TABLE "gallery_link" ("id" text PRIMARY KEY NOT NULL, "galleryId" text NOT NULL, "name" text NOT NULL,
         "email" text NOT NULL DEFAULT (''), "rights" text NOT NULL, "tokenHash" text NOT NULL UNIQUE, "secret" text NOT NULL,
         "codeHash" text, "codeSalt" text, "at" integer NOT NULL, "revokedAt" integer)`,
    );
    await runner.query(`CREATE INDEX "link_of_gallery" ON "gallery_link" ("galleryId")`);
    await runner.query(
      `CREATE TABLE "gallery_frame" ("galleryId" text NOT NULL, "seq" integer NOT NULL, "frameId" text NOT NULL,
         "key" text NOT NULL, "version" integer NOT NULL, "name" text NOT NULL, "picture" text, "recipe" text,
         "width" integer, "height" integer, PRIMARY KEY ("galleryId", "seq"))`,
    );
    await runner.query(`CREATE UNIQUE INDEX "gallery_frame_by_key" ON "gallery_frame" ("galleryId", "key")`);
    await runner.query(`CREATE INDEX "gallery_frame_of" ON "gallery_frame" ("frameId")`);
    await runner.query(
      `CREATE TABLE "gallery_guest" ("id" text PRIMARY KEY NOT NULL, "galleryId" text NOT NULL, "linkId" text NOT NULL,
         "name" text NOT NULL, "at" integer NOT NULL)`,
    );
    await runner.query(
      `CREATE TABLE "gallery_browser" ("hash" text PRIMARY KEY NOT NULL, "guestId" text NOT NULL, "until" integer NOT NULL)`,
    );
    await runner.query(`CREATE INDEX "guest_of_gallery" ON "gallery_guest" ("galleryId")`);
    await runner.query(
      `CREATE TABLE "gallery_said" ("id" integer PRIMARY KEY AUTOINCREMENT NOT NULL, "galleryId" text NOT NULL,
         "guestId" text NOT NULL, "frameId" text, "kind" text NOT NULL, "on" boolean NOT NULL, "text" text, "x" real,
         "y" real, "of" integer, "was" text, "at" integer NOT NULL)`,
    );
    await runner.query(`CREATE INDEX "said_in_gallery" ON "gallery_said" ("galleryId", "id")`);
    await runner.query(
      `CREATE INDEX "said_of_frame" ON "gallery_said" ("frameId") WHERE "frameId" IS NOT NULL`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of [
      'gallery_said',
      'gallery_browser',
      'gallery_guest',
      'gallery_frame',
      'gallery_link',
      'gallery',
    ])
      await runner.query(`DROP TABLE "${table}"`);
  }
}
