import { pool, type Pool, type WorkerPoolOptions } from 'workerpool';

/** What is asked of a thread. */
export interface Asked {
  /** milliseconds after which a thread that has not answered is ended */
  limit?: number;
  /** what it tells before it answers */
  onTold?: (told: unknown) => void;
  /** gives it up: the thread is ended */
  signal?: AbortSignal;
  /** memory that goes over to the thread, and is nobody's here from then on */
  gives?: ArrayBuffer[];
}

/** Threads, or processes, that are started when they are asked for, and end when nobody has asked for a while: they give their memory back. */
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

  async run<T>(
    method: string,
    parameters: unknown[],
    { limit, onTold, signal, gives = [] }: Asked = {},
  ): Promise<T> {
    this.threads ??= pool(this.script, { workerType: 'thread', ...this.options });
    this.under += 1;
    const asked = this.threads.exec(method, parameters, {
      on: (told: unknown) => onTold?.(told),
      transfer: gives,
    });
    const giveUp = () => void asked.cancel();
    signal?.addEventListener('abort', giveUp, { once: true });
    try {
      return (await (limit === undefined ? asked : asked.timeout(limit))) as T;
    } finally {
      signal?.removeEventListener('abort', giveUp);
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
