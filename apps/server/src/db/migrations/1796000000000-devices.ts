import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Devices are physical disks. What was kept before told partitions apart, not disks: it counts as unknown until the
 * drive is there again and is judged anew.
 */
const STATEMENTS = [
  `ALTER TABLE "volume" ADD COLUMN "disks" text`,
  `ALTER TABLE "volume" ADD COLUMN "stated" text`,
  `ALTER TABLE "volume" ADD COLUMN "below" text`,
  `UPDATE "volume" SET "device" = '?'`,
  `CREATE TABLE "sidecar_owed" ("volumeId" text NOT NULL, "frameId" text NOT NULL, PRIMARY KEY ("volumeId", "frameId"))`,
  `CREATE TABLE "reader_device" ("readerId" text PRIMARY KEY, "device" text NOT NULL)`,
];

export class Devices1796000000000 implements MigrationInterface {
  name = 'Devices1796000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
  }

  async down(): Promise<void> {
    throw new Error('Migrations go forward only; the copy made before is the way back.');
  }
}
