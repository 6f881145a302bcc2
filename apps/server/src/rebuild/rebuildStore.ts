import { Injectable } from '@nestjs/common';
import { applyMark, marksIn, UNKNOWN_DEVICE, type MarkOperation, type RecordRow } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import path from 'node:path';
import { ArkivConfig } from '../config/config';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Frame } from '../frames/frame.entity';
import { isSaidInSidecars } from '../marks/marks.service';
import type { NumberedOperation } from '../journal/journal';
import { BLOCK, RECORDED, type RecordedPart } from '../record/recorded';
import { RowText } from '../record/rowText';

/** Rows written in one transaction: some milliseconds of the writer. */
const ROWS = 200;
/** Operations read at once. */
const OPERATIONS = 1000;

/** Values of columns that are not recorded, where the table wants one. */
const ELSE: Readonly<Record<string, Record<string, unknown>>> = {
  gallery_link: { secret: '' },
  // A drive that is not here lies where nothing does, until it is found.
  volume: { root: '', device: UNKNOWN_DEVICE, disks: null, below: null, heldBy: null },
};
/** Integer keys that the database gives: kept where they are free, as other rows may have them in an older record. */
const NUMBERED: Readonly<Record<string, string>> = { frame: 'key', gallery_said: 'id', trail: 'seq' };

/** Writes rows that drives tell of. The only one that writes other rooms' tables: nothing else is at work then. */
@Injectable()
export class RebuildStore {
  constructor(
    private readonly config: ArkivConfig,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
  ) {}

  /** Rows of one part, those that are there already left as they are. Returns what could not be kept, in words. */
  async keep(kind: string, rows: readonly RecordRow[]): Promise<string[]> {
    const problems: string[] = [];
    for (const table of RECORDED[kind]!.tables) {
      const text = new RowText(this.reading.source, table);
      const own = rows.filter(({ is }) => is === text.table).map(({ row }) => text.kept(row));
      for (let from = 0; from < own.length; from += ROWS) {
        const some = own.slice(from, from + ROWS);
        await this.work
          .write((manager) => this.insert(manager, text, some))
          .catch(async (error: unknown) => {
            if (!isConstraint(error)) throw error;
            // One row stands on another that is not there: the others are kept all the same.
            for (const row of some)
              await this.work
                .write((manager) => this.insert(manager, text, [row]))
                .catch((one: unknown) => {
                  if (!isConstraint(one)) throw one;
                  problems.push(
                    `${text.table} ${String(row.get('id') ?? row.get('assetId') ?? '')}: ${(one as Error).message}`,
                  );
                });
          });
      }
    }
    return problems;
  }

  private async insert(
    manager: EntityManager,
    { table, order }: RowText,
    rows: readonly Map<string, unknown>[],
  ): Promise<void> {
    const more = ELSE[table] ?? {};
    const columns = [...new Set([...rows.flatMap((row) => [...row.keys()]), ...Object.keys(more)])];
    const values = rows.map((row) =>
      columns.map((column) =>
        column === 'root' && table === 'volume'
          ? path.join(this.config.dataDir, 'away', String(row.get('id')))
          : (row.get(column) ?? more[column] ?? null),
      ),
    );
    const number = NUMBERED[table];
    const value = (column: string, i: number): string =>
      column === number
        ? `(SELECT CASE WHEN EXISTS (SELECT 1 FROM "${table}" t WHERE t."${number}" = value ->> ${i} AND NOT ${sameIn(table, columns)}) THEN NULL ELSE value ->> ${i} END)`
        : `value ->> ${i}`;
    // What a new archive has said of itself by then gives way to what the studio had decided.
    const known =
      table === 'setting'
        ? 'ON CONFLICT (key) DO UPDATE SET value = excluded.value'
        : table === 'volume'
          ? 'ON CONFLICT (id) DO UPDATE SET name = excluded.name, role = excluded.role, stated = excluded.stated, "addedAt" = excluded."addedAt"'
          : `ON CONFLICT (${table === 'frame' || table === 'gallery_said' ? 'id' : order}) DO NOTHING`;
    await manager.query(
      `INSERT INTO "${table}" (${columns.map((column) => `"${column}"`).join(', ')})
       SELECT ${columns.map(value).join(', ')} FROM json_each(?) WHERE TRUE ${known}`,
      [JSON.stringify(values)],
    );
  }

  /** Operations of a shoot's history, at their places in the journal where these are known and free. */
  async keepHistory(shootId: string, operations: readonly NumberedOperation[]): Promise<void> {
    await this.work.inParts(operations, ROWS, async (manager, part) => {
      const values = part.map((o) => [
        ...[o.number ?? null, o.id, o.kind, o.subject, shootId],
        ...[json(o.from), json(o.to), o.at, o.by, o.group, o.pass, o.window, o.undoes, o.overtook ? 1 : 0],
      ]);
      const columns = ['seq', 'id', 'kind', 'subject', 'shootId', 'from', 'to', 'at', 'by', 'group'];
      const all = [...columns, 'pass', 'window', 'undoes', 'overtook'];
      const seq = `CASE WHEN EXISTS (SELECT 1 FROM operation t WHERE t.seq = value ->> 0) THEN NULL ELSE value ->> 0 END`;
      await manager.query(
        `INSERT INTO operation (${all.map((column) => `"${column}"`).join(', ')})
         SELECT ${all.map((_, i) => (i === 0 ? seq : `value ->> ${i}`)).join(', ')} FROM json_each(?)
         WHERE TRUE ON CONFLICT (id) DO NOTHING`,
        [JSON.stringify(values)],
      );
    });
  }

  /** What was decided of a part's frames after it was written. Returns how many frames it changed. */
  async replay(shootId: string, block: number, after: number): Promise<number> {
    const frames = new Map<string, Frame>();
    const changed = new Set<string>();
    for (let seq = after; ;) {
      const operations: (MarkOperation & { seq: number; from: string | null; to: string | null })[] =
        await this.reading.source.query(
          `SELECT o.* FROM operation o JOIN frame f ON f.id = o.subject
           WHERE o.seq > ? AND f."shootId" = ? AND f.key >= ? AND f.key < ? ORDER BY o.seq LIMIT ?`,
          [seq, shootId, block * BLOCK, (block + 1) * BLOCK, OPERATIONS],
        );
      for (const { subject, kind, to, at } of operations) {
        const frame =
          frames.get(subject) ?? (await this.reading.manager.findOneByOrFail(Frame, { id: subject }));
        frames.set(subject, frame);
        const before = JSON.stringify(marksIn(frame));
        const marks = applyMark(marksIn(frame), { kind, to: to === null ? null : (JSON.parse(to) as never) });
        Object.assign(frame, marks, isSaidInSidecars(kind) ? { markedAt: at } : {});
        if (JSON.stringify(marks) !== before) changed.add(subject);
      }
      if (operations.length < OPERATIONS) break;
      seq = operations.at(-1)!.seq;
    }
    await this.work.inParts([...changed], ROWS, async (manager, ids) => {
      for (const id of ids) {
        const frame = frames.get(id)!;
        const { markedAt, sidecarDue } = frame;
        // Whether the sidecars have it already is seen when they are looked at.
        await manager.update(Frame, { id }, { ...marksIn(frame), markedAt, sidecarDue: sidecarDue + 1 });
      }
    });
    return changed.size;
  }

  /** Which drives hold anything of a shoot. */
  async onDrives(shootId: string, recordedOn: readonly string[]): Promise<void> {
    await this.work.write(async (manager) => {
      await manager.query(
        `INSERT OR IGNORE INTO shoot_volume SELECT DISTINCT ?, c."volumeId" FROM asset a JOIN copy c ON c."assetId" = a.id
         WHERE a."shootId" = ?`,
        [shootId, shootId],
      );
      await manager.query(
        `INSERT OR IGNORE INTO shoot_volume SELECT ?, id FROM volume WHERE id IN (SELECT value FROM json_each(?))
         AND EXISTS (SELECT 1 FROM shoot WHERE id = ?)`,
        [shootId, JSON.stringify(recordedOn), shootId],
      );
    });
  }

  /** What drives hold, counted from the rows; the rest is judged as after any change of a drive. */
  async countDrives(): Promise<void> {
    const counts: { id: string; files: number; bytes: number; onlyHere: number; damaged: number }[] =
      await this.reading.source.query(
        `SELECT v.id, COUNT(a.id) AS files, COALESCE(SUM(a.size), 0) AS bytes, COALESCE(SUM(a.devices <= 1), 0) AS "onlyHere",
           (SELECT COUNT(*) FROM damage d WHERE d."volumeId" = v.id) AS damaged
         FROM volume v LEFT JOIN copy c ON c."volumeId" = v.id LEFT JOIN asset a ON a.id = c."assetId" GROUP BY v.id`,
      );
    await this.work.write(async (manager) => {
      // A list that was asked for meanwhile has chosen them among too few.
      await manager.query(`UPDATE shoot SET leads = NULL, "leadsAt" = -1, "countedBy" = ''`);
      for (const { id, files, bytes, onlyHere, damaged } of counts)
        await manager.query(
          `UPDATE volume SET files = ?, bytes = ?, "onlyHere" = ?, damaged = ?, "countedAs" = '' WHERE id = ?`,
          [files, bytes, onlyHere, damaged, id],
        );
    });
  }
}

/** Whether a row `t` that has a number is the one that a record says, in SQL: by what it is about and when. */
function sameIn(table: string, columns: readonly string[]): string {
  const by = SAME_BY[table] ?? [];
  return by.length === 0
    ? 'FALSE'
    : `(${by.map((column) => `t."${column}" IS value ->> ${columns.indexOf(column)}`).join(' AND ')})`;
}
const SAME_BY: Readonly<Record<string, readonly string[]>> = {
  gallery_said: ['galleryId', 'guestId', 'kind', 'at'],
  trail: ['shootId', 'kind', 'frameId', 'at'],
};

const json = (value: unknown): string | null => (value === null ? null : JSON.stringify(value));

const isConstraint = (error: unknown): boolean =>
  ((error as { driverError?: { code?: string } }).driverError?.code ?? '').startsWith('SQLITE_CONSTRAINT');

/** In which order parts are kept: what others stand on first. */
export const KINDS: readonly string[] = [
  ...Object.keys(RECORDED).filter((kind) => RECORDED[kind]!.of === 'archive'),
  ...['shoot', 'frames', 'loose'],
  ...Object.entries(RECORDED)
    .filter(
      ([kind, { of }]: [string, RecordedPart]) =>
        of === 'shoot' && !['shoot', 'frames', 'loose'].includes(kind),
    )
    .map(([kind]) => kind),
];
