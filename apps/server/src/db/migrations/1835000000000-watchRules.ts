import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Folders that are watched, and what becomes of what comes into them. */
export class WatchRules1835000000000 implements MigrationInterface {
  readonly name = 'WatchRules1835000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "watch_rule" ("id" text PRIMARY KEY NOT NULL, "name" text NOT NULL, "root" text NOT NULL,
         "on" boolean NOT NULL, "types" text NOT NULL, "below" boolean NOT NULL, "out" text NOT NULL,
         "settleSeconds" integer NOT NULL, "shootId" text, "title" text NOT NULL, "client" text NOT NULL,
         "place" text NOT NULL, "plan" text, "template" text, "album" text, "after" text NOT NULL,
         "batch" text, "left" text NOT NULL, "trouble" text, "taken" integer NOT NULL, "takenAt" integer,
         "createdAt" integer NOT NULL)`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "watch_rule"`);
  }
}
