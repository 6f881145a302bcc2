import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What became of files, for ever; and copies by their last proof, so that the oldest are read again first. */
export class Trail1837000000000 implements MigrationInterface {
  readonly name = 'Trail1837000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "trail" ("seq" integer PRIMARY KEY AUTOINCREMENT, "at" integer NOT NULL, "kind" text NOT NULL,
         "shootId" text NOT NULL, "frameId" text, "volumeId" text, "from" text, "to" text, "reason" text)`,
    );
    await runner.query(`CREATE INDEX "trail_shoot" ON "trail" ("shootId", "seq")`);
    await runner.query(
      `CREATE INDEX "trail_frame" ON "trail" ("frameId", "seq") WHERE "frameId" IS NOT NULL`,
    );
    await runner.query(`CREATE INDEX "trail_at" ON "trail" ("at")`);
    await runner.query(`CREATE INDEX "trail_damaged" ON "trail" ("volumeId", "at") WHERE "kind" = 'damaged'`);
    await runner.query(`CREATE INDEX "copy_proof" ON "copy" ("volumeId", "verifiedAt")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "copy_proof"`);
    await runner.query(`DROP TABLE "trail"`);
  }
}
