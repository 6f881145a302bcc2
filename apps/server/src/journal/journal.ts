import { Injectable } from '@nestjs/common';
import type { Operation } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { insertRows } from '../db/insertRows';
import { Reading } from '../db/unitOfWork';
import { JournalEntry } from './operation.entity';

/** Operations read at once: some milliseconds. */
const ROWS = 500;

export interface JournalPage {
  /** in the journal's order */
  operations: Operation[];
  /** number before which older ones are; null: these are the first */
  before: number | null;
}

/** An operation with its place in the whole archive's journal; `overtook`: `from` no longer held when it was applied. */
export type NumberedOperation = Operation & { number: number; overtook?: true };

/** The one journal of what was decided. Only what `append` takes is ever in it. */
@Injectable()
export class Journal {
  constructor(private readonly reading: Reading) {}

  /** Ids of these that are in the journal already. */
  async known(manager: EntityManager, ids: readonly string[]): Promise<Set<string>> {
    const rows: { id: string }[] = await manager.query(
      `SELECT id FROM operation WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(ids)],
    );
    return new Set(rows.map(({ id }) => id));
  }

  /** In the caller's transaction, together with what the operations change. */
  async append(
    manager: EntityManager,
    entries: readonly { operation: Operation; shootId: string; overtook: boolean }[],
  ): Promise<void> {
    const rows = entries.map(({ operation, shootId, overtook }) =>
      Object.assign(entryOf(operation), { shootId, overtook: overtook ? 1 : 0 }),
    );
    await insertRows(manager, JournalEntry, rows as Partial<JournalEntry>[]);
  }

  /** What was decided in a shoot, or anywhere (null), the newest `limit` before a number. */
  async page(shootId: string | null, limit: number, before: number | null = null): Promise<JournalPage> {
    const entries = await this.reading.manager
      .createQueryBuilder(JournalEntry, 'o')
      .where(shootId === null ? 'true' : 'o."shootId" = :shootId', { shootId })
      .andWhere('(:before IS NULL OR o.seq < :before)', { before })
      .orderBy('o.seq', 'DESC')
      .take(limit + 1)
      .getMany();
    const more = entries.length > limit;
    const shown = entries.slice(0, limit).reverse();
    return { operations: shown.map(entryOf), before: more ? shown[0]!.seq : null };
  }

  /** All that was decided in one pass. */
  async ofPass(pass: string): Promise<Operation[]> {
    const entries = await this.reading.manager.find(JournalEntry, { where: { pass }, order: { seq: 'ASC' } });
    return entries.map(entryOf);
  }

  /** All of one group, over all shoots, of a window that has an index of its own for that. */
  async ofGroup(group: string, window: 'vocabulary'): Promise<Operation[]> {
    const entries = await this.reading.manager.find(JournalEntry, {
      where: { group, window },
      order: { seq: 'ASC' },
    });
    return entries.map(entryOf);
  }

  /** All of a shoot, some hundred at a time. */
  async *walk(shootId: string): AsyncGenerator<Operation> {
    for await (const entry of this.entries(shootId)) yield entryOf(entry);
  }

  /** The same, with their places in the whole archive's journal. */
  async *numbered(shootId: string): AsyncGenerator<NumberedOperation> {
    for await (const entry of this.entries(shootId))
      yield { ...entryOf(entry), number: entry.seq, ...(entry.overtook ? { overtook: true } : {}) };
  }

  private async *entries(shootId: string): AsyncGenerator<JournalEntry> {
    for (let after = 0; ;) {
      const entries: JournalEntry[] = await this.reading.manager
        .createQueryBuilder(JournalEntry, 'o')
        .where('o."shootId" = :shootId AND o.seq > :after', { shootId, after })
        .orderBy('o.seq', 'ASC')
        .take(ROWS)
        .getMany();
      yield* entries;
      if (entries.length < ROWS) return;
      after = entries.at(-1)!.seq;
    }
  }
}

/** An operation alone, as it is sent and written. */
function entryOf(entry: Operation): Operation {
  const { id, kind, subject, from, to, at, by, group, pass, window, undoes } = entry;
  return { id, kind, subject, from, to, at, by, group, pass, window, undoes };
}
