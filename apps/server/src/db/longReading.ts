import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { pool, type Pool } from 'workerpool';
import { ArkivConfig } from '../config/config';
import { databaseFile } from './sources';

/** One is enough: what reads long reads from the same disk. */
const THREADS = 1;

/** Queries that take longer than the server's own thread may answer nobody, read in a thread of their own. */
@Injectable()
export class LongReading implements OnApplicationShutdown {
  private threads: Pool | null = null;

  constructor(private readonly config: ArkivConfig) {}

  async onApplicationShutdown(): Promise<void> {
    await this.threads?.terminate();
  }

  /**
   * Rows as packed columns, as UTF-8 JSON: `{ …more, "count", "columns": { name: PackedColumn } }`; gzipped where that
   * is asked for, so that the server's thread never holds the whole text.
   */
  async columns(
    sql: string,
    parameters: readonly unknown[],
    more: object,
    { gzip }: { gzip: boolean },
  ): Promise<Buffer> {
    const bytes = await this.run<Uint8Array>('columns', [sql, [...parameters], more, gzip]);
    return Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  rows<T>(sql: string, parameters: readonly unknown[]): Promise<T[]> {
    return this.run<T[]>('rows', [sql, [...parameters]]);
  }

  private async run<T>(method: string, parameters: readonly unknown[]): Promise<T> {
    this.threads ??= pool(require.resolve('@arkiv/server/dist/db/longReading.worker.js'), {
      workerType: 'thread',
      maxWorkers: THREADS,
    });
    return (await this.threads.exec(method, [databaseFile(this.config.dataDir), ...parameters])) as T;
  }
}
