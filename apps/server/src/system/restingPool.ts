import { pool, type Pool, type WorkerPoolOptions } from 'workerpool';
import { inTime, type Timed } from './inTime';

/** What is asked of a thread. */
export interface Asked extends Timed {
  /** gives it up: the thread is ended */
  signal?: AbortSignal;
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

  async run<T>(method: string, parameters: unknown[], { signal, ...timed }: Asked = {}): Promise<T> {
    this.threads ??= pool(this.script, { workerType: 'thread', ...this.options });
    this.under += 1;
    const asked = inTime(this.threads, method, parameters, timed);
    const giveUp = () => void asked.cancel();
    signal?.addEventListener('abort', giveUp, { once: true });
    try {
      return (await asked) as T;
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
