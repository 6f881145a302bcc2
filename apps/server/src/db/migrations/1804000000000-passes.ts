import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Passes over a shoot: what each is about, how far it came, and what came of it. */
export class Passes1804000000000 implements MigrationInterface {
  readonly name = 'Passes1804000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "pass" ("id" text PRIMARY KEY, "shootId" text NOT NULL REFERENCES "shoot"("id"), "name" text NOT NULL,
         "frames" text NOT NULL, "total" integer NOT NULL, "seen" text NOT NULL, "seenCount" integer NOT NULL, "at" text,
         "kept" integer NOT NULL, "rejected" integer NOT NULL, "activeMillis" integer NOT NULL, "begunAt" integer NOT NULL,
         "changedAt" integer NOT NULL, "endedAt" integer, "undoneAt" integer)`,
    );
    await runner.query(`CREATE INDEX "pass_shoot" ON "pass" ("shootId", "begunAt")`);
    await runner.query(`CREATE INDEX "operation_pass" ON "operation" ("pass") WHERE "pass" IS NOT NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "operation_pass"`);
    await runner.query(`DROP TABLE "pass"`);
  }
}
