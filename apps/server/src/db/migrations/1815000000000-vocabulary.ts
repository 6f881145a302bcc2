import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The studio's keywords as a tree, and what was done to it, so that it can be taken back. */
export class Vocabulary1815000000000 implements MigrationInterface {
  readonly name = 'Vocabulary1815000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "term" ("id" text PRIMARY KEY, "word" text NOT NULL, "parent" text, "synonyms" text NOT NULL,
        "kind" text NOT NULL, "number" text, "deliver" boolean NOT NULL)`,
    );
    await runner.query(`CREATE TABLE "shoot_roster" ("shootId" text PRIMARY KEY, "terms" text NOT NULL)`);
    await runner.query(
      `CREATE TABLE "vocabulary_change" ("id" text PRIMARY KEY, "at" integer NOT NULL, "deed" text NOT NULL,
        "words" text NOT NULL, "before" text NOT NULL, "after" text NOT NULL, "state" text NOT NULL, "frames" integer NOT NULL)`,
    );
    await runner.query(
      `CREATE INDEX "operation_vocabulary" ON "operation" ("group") WHERE "window" = 'vocabulary'`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "operation_vocabulary"`);
    await runner.query(`DROP TABLE "vocabulary_change"`);
    await runner.query(`DROP TABLE "shoot_roster"`);
    await runner.query(`DROP TABLE "term"`);
  }
}
