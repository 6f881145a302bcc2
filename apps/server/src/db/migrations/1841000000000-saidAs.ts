import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What arrivals said of a card's files is found by the files' own facts: all arrivals of a body's card bear the same name for years. */
export class SaidAs1841000000000 implements MigrationInterface {
  readonly name = 'SaidAs1841000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE INDEX "arrival_file_as" ON "arrival_file" ("mtimeMillis", "size")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "arrival_file_as"`);
  }
}
