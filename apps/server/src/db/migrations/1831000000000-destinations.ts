import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Where sets are copied to, and what got there. */
export class Destinations1831000000000 implements MigrationInterface {
  readonly name = 'Destinations1831000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "destination" ("id" text PRIMARY KEY NOT NULL, "name" text NOT NULL, "kind" text NOT NULL,
         "reach" text NOT NULL, "secret" text, "createdAt" integer NOT NULL)`,
    );
    await runner.query(
      `CREATE TABLE "sent" ("id" text PRIMARY KEY NOT NULL, "deliveryId" text NOT NULL, "shootId" text NOT NULL,
         "destinationId" text NOT NULL, "destination" text NOT NULL, "place" text NOT NULL, "folder" text NOT NULL,
         "carried" boolean NOT NULL DEFAULT (0), "confirmedAt" integer, "at" integer NOT NULL, "finishedAt" integer)`,
    );
    await runner.query(`CREATE INDEX "sent_of_shoot" ON "sent" ("shootId", "at")`);
    await runner.query(`CREATE INDEX "sent_of_delivery" ON "sent" ("deliveryId")`);
    await runner.query(
      `CREATE TABLE "sent_file" ("sentId" text NOT NULL, "seq" integer NOT NULL, "frameId" text, "from" text NOT NULL,
         "to" text NOT NULL, "size" integer NOT NULL, "sha256" text NOT NULL, "fate" text NOT NULL, "provenAt" integer,
         PRIMARY KEY ("sentId", "seq"))`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['sent_file', 'sent', 'destination']) await runner.query(`DROP TABLE "${table}"`);
  }
}
