import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { pool, type Pool } from 'workerpool';
import { ArkivConfig } from '../config/config';
import { databaseFile } from './sources';

/** Milliseconds without a question after which the thread ends: another shoot is opened sooner, or much later. */
const RESTS = 20_000;
/** One is enough: what reads long reads from the same disk. */
const THREADS = 1;

/** Queries that take longer than the server's own thread may answer nobody, read in a thread of their own. */
@Injectable()
export class LongReading implements OnApplicationShutdown {
  private threads: Pool | null = null;
  private under = 0;
  private resting: NodeJS.Timeout | null = null;

  constructor(private readonly config: ArkivConfig) {}

  async onApplicationShutdown(): Promise<void> {
    if (this.resting) clearTimeout(this.resting);
    await this.threads?.terminate();
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

  /** A thread that rests gives its memory back: what it read may have been a hundred megabytes. */
  private rest(): void {
    if (this.resting) clearTimeout(this.resting);
    this.resting = setTimeout(() => {
      const { threads } = this;
      if (this.under > 0 || !threads) return;
      this.threads = null;
      void threads.terminate();
    }, RESTS);
    this.resting.unref();
  }

  private async run<T>(method: string, parameters: readonly unknown[]): Promise<T> {
    this.threads ??= pool(require.resolve('@arkiv/server/dist/db/longReading.worker.js'), {
      workerType: 'thread',
      maxWorkers: THREADS,
    });
    this.under += 1;
    try {
      return (await this.threads.exec(method, [databaseFile(this.config.dataDir), ...parameters])) as T;
    } finally {
      this.under -= 1;
      this.rest();
    }
  }
}
