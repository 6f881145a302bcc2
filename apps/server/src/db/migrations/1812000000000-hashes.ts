import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Pictures are found by what they look like: their hashes, in four bands. */
export class Hashes1812000000000 implements MigrationInterface {
  readonly name = 'Hashes1812000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "picture_hash" ("picture" text PRIMARY KEY NOT NULL, "maker" integer NOT NULL, "band0" integer NOT NULL, "band1" integer NOT NULL, "band2" integer NOT NULL, "band3" integer NOT NULL) WITHOUT ROWID`,
    );
    for (const n of [0, 1, 2, 3])
      await runner.query(`CREATE INDEX "picture_hash_${n}" ON "picture_hash" ("band${n}")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "picture_hash"`);
  }
}
