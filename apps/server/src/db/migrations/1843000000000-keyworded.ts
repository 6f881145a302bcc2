import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Which keywords the archive's frames have is read from those that have some: of a million without one, all were gone through. */
export class Keyworded1843000000000 implements MigrationInterface {
  readonly name = 'Keyworded1843000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE INDEX "frame_keyworded" ON "frame" ("keywords") WHERE "keywords" <> '' AND "state" = 'here'`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "frame_keyworded"`);
  }
}
