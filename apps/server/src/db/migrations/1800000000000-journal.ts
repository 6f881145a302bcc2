import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * One journal for all that is decided, in one form; one list of our own texts that a drive has not got yet; and which
 * drives hold anything of a shoot.
 */
const STATEMENTS = [
  `CREATE TABLE "operation" ("seq" integer PRIMARY KEY AUTOINCREMENT, "id" text NOT NULL UNIQUE, "kind" text NOT NULL,
    "subject" text NOT NULL, "shootId" text NOT NULL, "from" text, "to" text, "at" integer NOT NULL,
    "by" text NOT NULL, "group" text NOT NULL, "pass" text, "window" text NOT NULL, "undoes" text,
    "overtook" integer NOT NULL)`,
  `INSERT INTO "operation" SELECT m."seq", m."id", m."field", m."frameId", COALESCE(f."shootId", ''), m."from", m."to",
      m."at", CASE WHEN m."window" = 'sidecar' THEN 'program' ELSE '' END, m."group", NULL, m."window", NULL, m."overtook"
    FROM "mark" m LEFT JOIN "frame" f ON f.id = m."frameId" ORDER BY m."seq"`,
  `DROP TABLE "mark"`,
  `CREATE INDEX "operation_shoot" ON "operation" ("shootId", "seq")`,
  `CREATE INDEX "operation_subject" ON "operation" ("subject")`,
  `CREATE TABLE "text_due" ("volumeId" text NOT NULL, "kind" text NOT NULL, "subject" text NOT NULL,
    "times" integer NOT NULL DEFAULT 1, PRIMARY KEY ("volumeId", "kind", "subject")) WITHOUT ROWID`,
  `CREATE INDEX "text_due_subject" ON "text_due" ("kind", "subject")`,
  `INSERT INTO "text_due" SELECT "volumeId", 'sidecar', "frameId", 1 FROM "sidecar_owed"`,
  `DROP TABLE "sidecar_owed"`,
  `CREATE TABLE "shoot_volume" ("shootId" text NOT NULL REFERENCES "shoot"("id") ON DELETE CASCADE,
    "volumeId" text NOT NULL REFERENCES "volume"("id"), PRIMARY KEY ("shootId", "volumeId")) WITHOUT ROWID`,
  `INSERT INTO "shoot_volume" SELECT DISTINCT a."shootId", c."volumeId" FROM "copy" c JOIN "asset" a ON a.id = c."assetId"`,
  `ALTER TABLE "shoot" ADD COLUMN "leads" text`,
  `ALTER TABLE "shoot" ADD COLUMN "leadsAt" integer NOT NULL DEFAULT -1`,
  // What was decided until now is written beside each shoot's pictures as well.
  `INSERT INTO "text_due" SELECT s."volumeId", 'history', s."shootId", 1 FROM "shoot_volume" s
    WHERE EXISTS (SELECT 1 FROM "operation" o WHERE o."shootId" = s."shootId")`,
];

export class Journal1800000000000 implements MigrationInterface {
  name = 'Journal1800000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of STATEMENTS) await runner.query(statement);
  }

  async down(): Promise<void> {
    throw new Error('Migrations go forward only; the copy made before is the way back.');
  }
}
