import { setImmediate as turn } from 'node:timers/promises';
import { Inject, Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import type { DataSource, EntityManager } from 'typeorm';
import { Happenings } from '../events/domainEvents';
import { READ_SOURCE, WRITE_SOURCE } from './sources';

/**
 * The only way to write to the database: one transaction after another. The driver has one connection, and two
 * transactions that overlap on it lose writes that had reported success.
 */
@Injectable()
export class UnitOfWork {
  private last: Promise<unknown> = Promise.resolve();

  constructor(
    @Inject(WRITE_SOURCE) private readonly source: DataSource,
    private readonly happenings: Happenings,
  ) {}

  /**
   * Runs `work` in a transaction of its own, after all that were asked for before. Must not be nested. What is told
   * within it (`Happenings.after`) leaves after the commit, before the next transaction begins.
   */
  write<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const run = this.last.then(async () => {
      // Queries answer without waiting: without a turn for others, transactions in a row would be one long one.
      await turn();
      const { value, tellAll } = await this.source.transaction((manager) =>
        this.happenings.within(manager, () => work(manager)),
      );
      tellAll();
      return value;
    });
    this.last = run.catch(() => undefined);
    return run.catch((error: unknown) => {
      const code = (error as { driverError?: { code?: string } }).driverError?.code ?? '';
      if (code === 'SQLITE_FULL' || code.startsWith('SQLITE_READONLY') || code.startsWith('SQLITE_IOERR')) {
        throw new ArkivError('archive.read-only', { reason: (error as Error).message });
      }
      throw error;
    });
  }

  /**
   * Work on many rows in parts of at most `size`, each a transaction of its own, so that marks and other writers get
   * their turn in between. Each part must leave the archive true, and be such that it can be done again.
   */
  async inParts<I>(
    items: readonly I[],
    size: number,
    work: (manager: EntityManager, part: readonly I[]) => Promise<void>,
  ): Promise<void> {
    for (let at = 0; at < items.length; at += size)
      await this.write((manager) => work(manager, items.slice(at, at + size)));
  }

  /**
   * Makes triggers: whoever changes a row, and however, they fire in the same transaction. They are of the connection that writes and not
   * of the database (`CREATE TEMP TRIGGER IF NOT EXISTS`), so that no migration has to know of them.
   */
  async trigger(statements: readonly string[]): Promise<void> {
    await this.write(async (manager) => {
      for (const statement of statements) await manager.query(statement);
    });
  }

  /** Resolves when everything asked for so far has been written. */
  async settled(): Promise<void> {
    await this.last;
  }
}

/** Reads, over a connection that cannot write. */
@Injectable()
export class Reading {
  constructor(@Inject(READ_SOURCE) readonly source: DataSource) {}

  get manager(): EntityManager {
    return this.source.manager;
  }
}
