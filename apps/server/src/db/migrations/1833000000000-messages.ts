import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What clients are written, and the server that carries it. */
export class Messages1833000000000 implements MigrationInterface {
  readonly name = 'Messages1833000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "message" ("id" text PRIMARY KEY NOT NULL, "shootId" text NOT NULL, "galleryId" text, "linkId" text,
         "kind" text NOT NULL, "to" text NOT NULL, "subject" text NOT NULL, "text" text NOT NULL, "attached" text NOT NULL,
         "state" text NOT NULL, "reason" text, "at" integer NOT NULL, "sentAt" integer)`,
    );
    await runner.query(`CREATE INDEX "message_of_shoot" ON "message" ("shootId")`);
    await runner.query(
      `CREATE TABLE "mail_account" ("id" text PRIMARY KEY NOT NULL, "host" text NOT NULL, "port" integer NOT NULL,
         "security" text NOT NULL, "user" text NOT NULL, "from" text NOT NULL, "secret" text)`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "mail_account"`);
    await runner.query(`DROP TABLE "message"`);
  }
}
