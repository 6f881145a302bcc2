import { Inject, Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import type { DataSource, EntityManager } from 'typeorm';
import { READ_SOURCE, WRITE_SOURCE } from './sources';

/**
 * The only way to write to the database: one transaction after another. The driver has one connection, and two
 * transactions that overlap on it lose writes that had reported success.
 */
@Injectable()
export class UnitOfWork {
  private last: Promise<unknown> = Promise.resolve();

  constructor(@Inject(WRITE_SOURCE) private readonly source: DataSource) {}

  /** Runs `work` in a transaction of its own, after all that were asked for before. Must not be nested. */
  write<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const run = this.last.then(() => this.source.transaction(work));
    this.last = run.catch(() => undefined);
    return run.catch((error: unknown) => {
      const code = (error as { driverError?: { code?: string } }).driverError?.code ?? '';
      if (code === 'SQLITE_FULL' || code.startsWith('SQLITE_READONLY') || code.startsWith('SQLITE_IOERR')) {
        throw new ArkivError('archive.read-only', { reason: (error as Error).message });
      }
      throw error;
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
