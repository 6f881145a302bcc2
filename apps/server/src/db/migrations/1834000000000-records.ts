import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Parts of which a shoot has one. */
const ONCE = ['shoot', 'loose', 'passes', 'handed', 'returns', 'messages'];
/** Parts of which it has one for each row of a table. */
const EACH = ['arrival', 'handoff', 'delivery', 'sent', 'gallery'];
const owe = (subjects: string): string =>
  `INSERT OR IGNORE INTO "text_due" ("volumeId", "kind", "subject", "times") ${subjects}`;
const due = 'SELECT v."volumeId", \'record\'';

/** Each drive lacks what is recorded of its shoots, as nothing was until now. */
export class Records1834000000000 implements MigrationInterface {
  readonly name = 'Records1834000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const part of ['archive', 'vocabulary', 'sets'])
      await runner.query(owe(`SELECT id, 'record', '${part}::', 1 FROM "volume" WHERE role <> 'edit'`));
    for (const part of ONCE)
      await runner.query(owe(`${due}, '${part}:' || v."shootId" || ':', 1 FROM "shoot_volume" v`));
    for (const part of EACH)
      await runner.query(
        owe(
          `${due}, '${part}:' || v."shootId" || ':' || t.id, 1 FROM "shoot_volume" v JOIN "${part}" t ON t."shootId" = v."shootId"`,
        ),
      );
    await runner.query(
      owe(
        `SELECT DISTINCT v."volumeId", 'record', 'frames:' || v."shootId" || ':' || (f.key / 1024), 1
         FROM "shoot_volume" v JOIN "frame" f ON f."shootId" = v."shootId"`,
      ),
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DELETE FROM "text_due" WHERE kind = 'record'`);
  }
}
