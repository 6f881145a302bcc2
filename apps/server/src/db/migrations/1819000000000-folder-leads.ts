import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The frames that somebody chose to stand for the folders of a shoot. */
export class FolderLeads1819000000000 implements MigrationInterface {
  readonly name = 'FolderLeads1819000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "shoot" ADD COLUMN "folderLeads" text`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "shoot" DROP COLUMN "folderLeads"`);
  }
}
