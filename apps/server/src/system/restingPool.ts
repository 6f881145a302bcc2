import { pool, type Pool, type WorkerPoolOptions } from 'workerpool';

/** Threads that are started when they are asked for, and end when nobody has asked for a while: they give their memory back. */
export class RestingPool {
  private threads: Pool | null = null;
  private under = 0;
  private resting: NodeJS.Timeout | null = null;

  constructor(
    private readonly script: string,
    private readonly options: WorkerPoolOptions,
    /** milliseconds without a question after which they end */
    private readonly rests: number,
  ) {}

  /** `limit`: milliseconds after which a thread that has not answered is ended. */
  async run<T>(method: string, parameters: unknown[], limit?: number): Promise<T> {
    this.threads ??= pool(this.script, { workerType: 'thread', ...this.options });
    this.under += 1;
    try {
      const asked = this.threads.exec(method, parameters);
      return (await (limit === undefined ? asked : asked.timeout(limit))) as T;
    } finally {
      this.under -= 1;
      this.rest();
    }
  }

  async end(force = false): Promise<void> {
    if (this.resting) clearTimeout(this.resting);
    await this.threads?.terminate(force);
  }

  private rest(): void {
    if (this.resting) clearTimeout(this.resting);
    this.resting = setTimeout(() => {
      const { threads } = this;
      if (this.under > 0 || !threads) return;
      this.threads = null;
      void threads.terminate();
    }, this.rests);
    this.resting.unref();
  }
}
