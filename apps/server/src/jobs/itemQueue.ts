import type { Job, JobItem } from './job.entity';
import type { JobHandler } from './jobHandler';
import type { JobStore, NewItem } from './jobStore';

/** Items taken up at once: enough that reading them is no part of the work, few enough to hold. */
const TAKEN = 200;

/** Hands out a job's items one by one, some hundred read at a time; asks its handler for more where it makes them. */
export class ItemQueue {
  private items: JobItem[] = [];
  private after = -1;
  private filling: Promise<void> | null = null;
  private ended = false;

  constructor(
    private readonly store: JobStore,
    private readonly job: Job,
    private readonly handler: JobHandler,
    private readonly add: (items: readonly NewItem[], from: number, ahead: string | null) => Promise<void>,
  ) {}

  async next(): Promise<JobItem | null> {
    while (this.items.length === 0 && !this.ended) {
      this.filling ??= this.fill().finally(() => (this.filling = null));
      await this.filling;
    }
    return this.items.shift() ?? null;
  }

  private async fill(): Promise<void> {
    const { store } = this;
    const found = await store.page(this.job.id, this.after, ['todo'], TAKEN);
    if (found.length > 0) {
      this.after = found.at(-1)!.seq;
      this.items.push(...found);
      return;
    }
    const { ahead } = await store.get(this.job.id);
    const last = ahead === null || !this.handler.more ? null : await store.last(this.job.id);
    const made = ahead === null ? null : await this.handler.more?.(this.job, last);
    if (!made || made.items.length === 0) {
      if (ahead !== null) await this.add([], 0, null);
      this.ended = true;
      return;
    }
    const from = (last?.seq ?? -1) + 1;
    await this.add(made.items, from, made.ahead);
    this.after = Math.max(this.after, from - 1);
  }
}
