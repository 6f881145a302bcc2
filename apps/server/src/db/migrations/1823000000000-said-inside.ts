import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Copies of JPEGs that carry inside what is said of their frames: how they were written there. */
export class SaidInside1823000000000 implements MigrationInterface {
  readonly name = 'SaidInside1823000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [column, type] of COLUMNS)
      await runner.query(`ALTER TABLE "handed" ADD COLUMN "${column}" ${type}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const [column] of COLUMNS) await runner.query(`ALTER TABLE "handed" DROP COLUMN "${column}"`);
  }
}

const COLUMNS = [
  ['written', 'text'],
  ['packet', 'text'],
  ['mtimeMillis', 'real'],
] as const;
