import type { DataSource } from 'typeorm';
import { allOfShoot, RECORDED, type RecordedPart } from './recorded';

/** A part is due on each drive that these say. */
const owe = (volumes: string): string =>
  `INSERT INTO text_due ("volumeId", kind, subject, times) ${volumes}
   ON CONFLICT ("volumeId", kind, subject) DO UPDATE SET times = times + 1;`;
const onDrives = (subjects: string): string =>
  owe(
    `SELECT v."volumeId", 'record', t.subject, 1 FROM (${subjects}) t JOIN shoot_volume v ON v."shootId" = t.shoot WHERE TRUE`,
  );
const ofArchive = (kind: string): string =>
  owe(`SELECT id, 'record', '${kind}::', 1 FROM volume WHERE role <> 'edit'`);

/** What makes a record due, as triggers for `UnitOfWork.trigger`. */
export function recordTriggers(source: DataSource): string[] {
  const triggers: string[] = [];
  const on = (name: string, event: string, body: string): void => {
    triggers.push(
      `CREATE TEMP TRIGGER IF NOT EXISTS "record_${triggers.length}_${name}" AFTER ${event} BEGIN ${body} END`,
    );
  };
  for (const [kind, part] of Object.entries(RECORDED))
    for (const table of part.tables) {
      const { tableName, columns } = source.getMetadata(table.entity);
      const { of } = table;
      if (of === null && part.of === 'shoot') continue;
      const silent = [...(table.quiet ?? []), ...(table.without ?? [])];
      const told = columns
        .map(({ databaseName }) => databaseName)
        .filter((column) => !silent.includes(column))
        .map((column) => `"${column}"`)
        .join(', ');
      const due = (r: string): string => (of ? onDrives(of(r)) : ofArchive(kind));
      on(tableName, `INSERT ON main."${tableName}"`, due('NEW'));
      on(tableName, `DELETE ON main."${tableName}"`, due('OLD'));
      // What went from one part into another is due in both.
      on(
        tableName,
        `UPDATE OF ${told} ON main."${tableName}"`,
        of ? onDrives(`${of('OLD')} UNION ${of('NEW')}`) : due('NEW'),
      );
    }
  const all = `SELECT NEW."volumeId", 'record', t.subject, 1 FROM (${allOfShoot('NEW."shootId"')}) t WHERE TRUE`;
  on(
    'shoot_volume',
    'INSERT ON main.shoot_volume',
    owe(`${all} UNION ALL SELECT NEW."volumeId", 'history', NEW."shootId", 1`),
  );
  // It lies elsewhere on every drive.
  const moved = `SELECT t.subject, NEW.id AS shoot FROM (${allOfShoot('NEW.id')}) t`;
  on('shoot', 'UPDATE OF "folders", "mergedInto", "keptIn" ON main.shoot', onDrives(moved));
  on(
    'shoot',
    'UPDATE OF "keptIn" ON main.shoot',
    owe(`SELECT "volumeId", 'history', NEW.id, 1 FROM shoot_volume WHERE "shootId" = NEW.id`),
  );
  const archives = archiveParts()
    .map(([kind]) => `SELECT NEW.id, 'record', '${kind}::', 1 WHERE NEW.role <> 'edit'`)
    .join(' UNION ALL ');
  on('volume', 'INSERT ON main.volume', owe(`SELECT * FROM (${archives}) WHERE TRUE`));
  on('volume', 'UPDATE OF role ON main.volume', owe(`SELECT * FROM (${archives}) WHERE TRUE`));
  return triggers;
}

export const archiveParts = (): [string, RecordedPart][] =>
  Object.entries(RECORDED).filter(([, { of }]) => of === 'archive');
