import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { asAsked, FILES_AS, type FileAs } from '../ledger/saidAs';
import { livingShoot } from '../shoots/livingShoot';
import { WatchRule } from './watchRule.entity';

/** A file that a rule has taken in, or tried to. */
export interface TakenFile {
  from: string;
  size: number;
  mtimeMillis: number;
  fate: string;
  sha256: string | null;
  frameId: string | null;
}

/** The only writer of rules. */
@Injectable()
export class WatchStore {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly happenings: Happenings,
  ) {}

  async all(): Promise<WatchRule[]> {
    const rules = await this.reading.manager.find(WatchRule, { order: { createdAt: 'ASC', id: 'ASC' } });
    return Promise.all(rules.map((rule) => this.asItIs(rule)));
  }

  async get(id: string): Promise<WatchRule> {
    const rule = await this.find(id);
    if (!rule) throw new ArkivError('not-found', { what: 'watched folder', id });
    return rule;
  }

  async find(id: string): Promise<WatchRule | null> {
    const rule = await this.reading.manager.findOneBy(WatchRule, { id });
    return rule && this.asItIs(rule);
  }

  /** What goes into a shoot that was merged goes where its frames are. */
  private async asItIs(rule: WatchRule): Promise<WatchRule> {
    if (rule.shootId === null) return rule;
    const shoot = await livingShoot(this.reading.manager, rule.shootId);
    return { ...rule, shootId: shoot?.id ?? rule.shootId };
  }

  async save(rule: WatchRule): Promise<void> {
    await this.told((manager) => manager.save(WatchRule, rule));
  }

  async change(id: string, change: Partial<WatchRule>): Promise<void> {
    await this.told((manager) => manager.update(WatchRule, { id }, change as object));
  }

  async remove(id: string): Promise<void> {
    await this.told((manager) => manager.delete(WatchRule, { id }));
  }

  private async told(write: (manager: EntityManager) => Promise<unknown>): Promise<void> {
    await this.work.write(async (manager) => {
      await write(manager);
      this.happenings.after(manager, 'watch', {});
    });
  }

  /** What a rule has taken in of these files, as they are, and may still lie in its folder: by path, the newest. */
  async takenOf(readerId: string, files: readonly FileAs[]): Promise<Map<string, TakenFile>> {
    const rows: TakenFile[] = await this.reading.source.query(
      `SELECT f."from", f.size, f."mtimeMillis", f.fate, f.sha256, f."frameId"
       FROM ${FILES_AS} CROSS JOIN arrival a ON a.id = f."arrivalId" AND a."readerId" = ? ORDER BY a.at, a.id`,
      [asAsked(files), readerId],
    );
    return new Map(rows.map((row) => [row.from, row]));
  }

  /** The newest arrival of a rule, with its job's state where that is still known. */
  async lastArrival(readerId: string): Promise<{ id: string; state: string | null } | null> {
    const [last]: { id: string; state: string | null }[] = await this.reading.source.query(
      `SELECT a.id, j.state FROM arrival a LEFT JOIN job j ON j.id = a.id WHERE a."readerId" = ?
       ORDER BY a.at DESC, a.id DESC LIMIT 1`,
      [readerId],
    );
    return last ?? null;
  }

  /** Files of an arrival, with why those failed that did. */
  arrived(id: string): Promise<(TakenFile & { reason: string | null })[]> {
    return this.reading.source.query(
      `SELECT f."from", f.size, f."mtimeMillis", f.fate, f.sha256, f."frameId", i.reason FROM arrival_file f
       LEFT JOIN job_item i ON i."jobId" = f."arrivalId" AND i.seq = f.seq WHERE f."arrivalId" = ? ORDER BY f.seq`,
      [id],
    );
  }

  /** The shoot of this title and day, the newest where there are several. */
  async shootOfDay(title: string, date: string): Promise<string | null> {
    const [row]: { id: string }[] = await this.reading.source.query(
      `SELECT id FROM shoot WHERE title = ? AND date = ? AND "mergedInto" IS NULL AND "keptIn" IS NULL ORDER BY "createdAt" DESC LIMIT 1`,
      [title, date],
    );
    return row?.id ?? null;
  }

  /** On how many devices proven copies of a content lie, and where these are. */
  async copiesOf(sha256: string): Promise<{ devices: number; copies: { volumeId: string; at: string }[] }> {
    const [row]: { devices: number | null }[] = await this.reading.source.query(
      `SELECT MAX(devices) AS devices FROM asset WHERE sha256 = ?`,
      [sha256],
    );
    const copies: { volumeId: string; at: string }[] = await this.reading.source.query(
      `SELECT "volumeId", "at" FROM copy_at WHERE sha256 = ? AND "verifiedAt" IS NOT NULL`,
      [sha256],
    );
    return { devices: row?.devices ?? 0, copies };
  }
}
