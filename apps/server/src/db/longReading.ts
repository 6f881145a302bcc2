import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { ArkivConfig } from '../config/config';
import { RestingPool } from '../system/restingPool';
import { databaseFile } from './sources';

/**
 * Milliseconds without a question after which the thread ends, with up to a hundred megabytes: another shoot is opened
 * sooner, or much later.
 */
const RESTS = 20_000;
/** One is enough: what reads long reads from the same disk. */
const THREADS = 1;

/** Queries that take longer than the server's own thread may answer nobody, read in a thread of their own. */
@Injectable()
export class LongReading implements OnApplicationShutdown {
  private readonly threads = new RestingPool(
    require.resolve('@arkiv/server/dist/db/longReading.worker.js'),
    { maxWorkers: THREADS },
    RESTS,
  );

  constructor(private readonly config: ArkivConfig) {}

  async onApplicationShutdown(): Promise<void> {
    await this.threads.end();
  }

  /**
   * Rows as columns, as UTF-8 JSON: `{ …more, "count", "columns": { name: [value …] } }`; gzipped where that
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

  private run<T>(method: string, parameters: readonly unknown[]): Promise<T> {
    return this.threads.run<T>(method, [databaseFile(this.config.dataDir), ...parameters]);
  }
}
