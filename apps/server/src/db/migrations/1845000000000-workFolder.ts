import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What goes out of a shoot whose pictures lie in an adopted folder has a folder of the archive's own. */
export class WorkFolder1845000000000 implements MigrationInterface {
  readonly name = 'WorkFolder1845000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "shoot" ADD COLUMN "workFolder" text`);
    await runner.query(`CREATE INDEX "shoot_works" ON "shoot" ("workFolder") WHERE "workFolder" IS NOT NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "shoot_works"`);
    await runner.query(`ALTER TABLE "shoot" DROP COLUMN "workFolder"`);
  }
}
