import { Injectable } from '@nestjs/common';
import { fateOf, type Fate, type FileProgress } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { dropRows } from '../db/dropRows';
import { insertRows } from '../db/insertRows';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { Arrival, ArrivalFile } from './arrival.entity';
import { asAsked, FILES_AS, type FileAs } from './saidAs';

/** A frame's old place and name, and its new ones. */
export interface MovedFrame {
  id: string;
  from: { place: string; name: string };
  to: { place: string; name: string };
}

/** What is not copied everywhere and may still come. */
const UNFINISHED = `('todo', 'partly', 'failed')`;

/**
 * Arrivals of a card that are asked for files which none of them saw as they are: a card is taken in a few times before it is formatted,
 * and what changed on it since is told by the last of them.
 */
const NEWEST = 12;

/** The only writer of what came from cards. It is never changed afterwards, but for where files are still to come to. */
@Injectable()
export class ArrivalLedger {
  constructor(
    private readonly reading: Reading,
    private readonly long: LongReading,
  ) {}

  async open(manager: EntityManager, arrival: Arrival): Promise<void> {
    await manager.insert(Arrival, arrival);
  }

  async add(manager: EntityManager, files: readonly ArrivalFile[]): Promise<void> {
    await insertRows(manager, ArrivalFile, files);
  }

  /** Frames that an arrival's files are of. */
  async frameIds(id: string): Promise<string[]> {
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT DISTINCT "frameId" AS id FROM arrival_file WHERE "arrivalId" = ? AND "frameId" IS NOT NULL`,
      [id],
    );
    return rows.map((row) => row.id);
  }

  /** Takes away some files of an arrival that never began, then the arrival. Whether there is more to take. */
  async forget(manager: EntityManager, id: string): Promise<boolean> {
    if (await dropRows(manager, 'arrival_file', 'arrivalId', id)) return true;
    await manager.delete(Arrival, { id });
    return false;
  }

  async get(id: string): Promise<Arrival | null> {
    return this.reading.manager.findOneBy(Arrival, { id });
  }

  file(id: string, seq: number): Promise<ArrivalFile> {
    return this.reading.manager.findOneByOrFail(ArrivalFile, { arrivalId: id, seq });
  }

  /** A file as it stands within a transaction. */
  fileNow(manager: EntityManager, id: string, seq: number): Promise<ArrivalFile> {
    return manager.findOneByOrFail(ArrivalFile, { arrivalId: id, seq });
  }

  /** All files of an arrival as the card had them, those that were left out last. */
  files(id: string): Promise<ArrivalFile[]> {
    return this.reading.manager.find(ArrivalFile, { where: { arrivalId: id }, order: { seq: 'ASC' } });
  }

  /** Files and bytes of an arrival by what became of them; without those that were left out. */
  async counts(id: string): Promise<{ files: number; bytes: number; of: (fate: Fate) => number }> {
    const rows: { fate: Fate; n: number; bytes: number }[] = await this.reading.source.query(
      `SELECT fate, COUNT(*) AS n, SUM(size) AS bytes FROM arrival_file
       WHERE "arrivalId" = ? AND fate <> 'left-out' GROUP BY fate`,
      [id],
    );
    return {
      files: rows.reduce((sum, row) => sum + row.n, 0),
      bytes: rows.reduce((sum, row) => sum + row.bytes, 0),
      of: (fate) => rows.find((row) => row.fate === fate)?.n ?? 0,
    };
  }

  async note(manager: EntityManager, id: string, seq: number, progress: FileProgress): Promise<void> {
    const { sha256 } = progress;
    await manager.update(ArrivalFile, { arrivalId: id, seq }, { progress, sha256, fate: fateOf(progress) });
  }

  /** Whether a frame has files that were not tried yet. */
  async expects(manager: EntityManager, id: string, frameId: string): Promise<boolean> {
    const [row]: unknown[] = await manager.query(
      `SELECT 1 FROM arrival_file WHERE "frameId" = ? AND "arrivalId" = ? AND fate = 'todo' LIMIT 1`,
      [frameId, id],
    );
    return row !== undefined;
  }

  started(manager: EntityManager, id: string, at: number): Promise<unknown> {
    return manager.query(`UPDATE arrival SET "startedAt" = COALESCE("startedAt", ?) WHERE id = ?`, [at, id]);
  }

  async finished(
    manager: EntityManager,
    id: string,
    change: Partial<Pick<Arrival, 'finishedAt' | 'receipts' | 'shootId'>>,
  ): Promise<void> {
    await manager.update(Arrival, { id }, change);
  }

  /** Folders that files of an arrival come to. */
  async folders(id: string): Promise<string[]> {
    const rows: { to: string }[] = await this.reading.source.query(
      `SELECT DISTINCT rtrim("to", replace("to", '/', '')) AS "to" FROM arrival_file
       WHERE "arrivalId" = ? AND fate <> 'left-out'`,
      [id],
    );
    return rows.map(({ to }) => to.slice(0, -1));
  }

  /** Places that arrivals into a shoot may still fill: as long as there is a job that could be tried again. */
  async placesToCome(shootId: string): Promise<string[]> {
    const rows: { to: string }[] = await this.reading.source.query(
      `SELECT f."to" FROM arrival a JOIN arrival_file f ON f."arrivalId" = a.id
       WHERE a."shootId" = ? AND f.fate = 'todo' AND EXISTS (SELECT 1 FROM job j WHERE j.id = a.id)`,
      [shootId],
    );
    return rows.map(({ to }) => to);
  }

  /** Whether files of no frame are still to come into a shoot. */
  async expectsLoose(manager: EntityManager, shootId: string): Promise<boolean> {
    const [row]: unknown[] = await manager.query(
      `SELECT 1 FROM arrival a JOIN arrival_file f ON f."arrivalId" = a.id
       WHERE a."shootId" = ? AND f.fate IN ${UNFINISHED} AND f."frameId" IS NULL LIMIT 1`,
      [shootId],
    );
    return row !== undefined;
  }

  /** Files of moved frames that could not be copied yet will come to where their frame is now. */
  async redirect(manager: EntityManager, moved: readonly MovedFrame[]): Promise<void> {
    for (const { id, from, to } of moved) {
      const before = `${from.place}/${from.name}`;
      await manager.query(
        `UPDATE arrival_file SET "to" = ? || substr("to", ?)
         WHERE "frameId" = ? AND fate IN ${UNFINISHED} AND substr("to", 1, ?) = ?`,
        [`${to.place}/${to.name}`, before.length + 1, id, before.length, before],
      );
    }
  }

  /** The card that each frame of a shoot came on. */
  async cards(shootId: string): Promise<Map<string, string>> {
    const rows: { id: string; card: string }[] = await this.reading.source.query(
      `SELECT f.id, (SELECT a.card FROM arrival_file x JOIN arrival a ON a.id = x."arrivalId"
         WHERE x."frameId" = f.id LIMIT 1) AS card FROM frame f WHERE f."shootId" = ?`,
      [shootId],
    );
    return new Map(rows.flatMap(({ id, card }) => (card ? [[id, card] as const] : [])));
  }

  /**
   * What earlier arrivals of a card say of its files, the newest last: of each that one of them saw as it is, and of the others what the
   * newest ones say of their paths. Arrivals of other cards say nothing: two bodies write the same names. Read in a thread of its own, as
   * cards hold thousands of files, and one of a body comes for years.
   */
  async saidOf(
    card: { fingerprint: string; name: string | null },
    files: readonly FileAs[],
  ): Promise<Pick<ArrivalFile, 'from' | 'sha256' | 'size' | 'mtimeMillis'>[]> {
    const seen = await this.said(
      `${FILES_AS} CROSS JOIN arrival a ON a.id = f."arrivalId" AND (a.fingerprint = ? OR a.card = ?)`,
      [asAsked(files), card.fingerprint, card.name],
    );
    const known = new Set(seen.map(({ from }) => from));
    const others = files.flatMap(({ path }) => (known.has(path) ? [] : path));
    if (others.length === 0) return seen;
    const before = await this.said(
      `(SELECT id, at FROM arrival WHERE fingerprint = ? OR card = ? ORDER BY at DESC, id DESC LIMIT ${NEWEST}) a
       CROSS JOIN arrival_file f ON f."arrivalId" = a.id AND f."from" IN (SELECT value FROM json_each(?))`,
      [card.fingerprint, card.name, JSON.stringify(others)],
    );
    return [...seen, ...before];
  }

  private said(from: string, parameters: readonly unknown[]) {
    return this.long.rows<Pick<ArrivalFile, 'from' | 'sha256' | 'size' | 'mtimeMillis'>>(
      `SELECT f."from", f.sha256, f.size, f."mtimeMillis" FROM ${from}
       WHERE f.sha256 IS NOT NULL AND f.fate IN ('copied', 'partly', 'already-here') ORDER BY a.at, a.id`,
      parameters,
    );
  }
}
