import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Addresses by which people outside send pictures. */
export class UploadLinks1838000000000 implements MigrationInterface {
  readonly name = 'UploadLinks1838000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "upload_link" ("id" text PRIMARY KEY NOT NULL, "title" text NOT NULL, "name" text NOT NULL,
         "most" integer NOT NULL, "came" integer NOT NULL DEFAULT (0), "until" integer, "tokenHash" text NOT NULL,
         "secret" text NOT NULL, "codeHash" text, "codeSalt" text, "at" integer NOT NULL, "revokedAt" integer,
         CONSTRAINT "UQ_upload_link_token" UNIQUE ("tokenHash"))`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "upload_link"`);
  }
}
