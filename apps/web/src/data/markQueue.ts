import type { MarkOperation } from '@arkiv/core';
import { ApiFailure, post, type Api } from './http';

/** What was marked before it was known whose it is; a window keeps it under the archive's own key as soon as it is. */
const UNOWNED = 'arkiv.marks';
/** Which archive was served here last. */
const OWNER = 'arkiv.archive';
/** As many as the server takes at once. */
const BATCH = 2000;
/** Milliseconds until the next try when the server cannot be reached; doubled up to the second figure. */
const RETRY = [500, 8000] as const;

export interface QueueState {
  waiting: number;
  /** why nothing goes out, or null */
  trouble: string | null;
}

/**
 * Marks on their way to the server, in order. Each is kept in the browser's own storage until the server has
 * said that it is durable, so closing the window or losing the server loses nothing.
 */
export class MarkQueue {
  private pending: MarkOperation[];
  /** the archive that the marks are kept for: the one that was served here last, till it is known which one is */
  private owner: string | null;
  /** the archive that is served here; null: not known yet, and nothing goes out */
  private archive: string | null = null;
  private sending = false;
  private wait: number = RETRY[0];
  private trouble: string | null = null;
  private readonly listeners = new Set<() => void>();
  private state: QueueState;

  constructor(
    private readonly storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>,
    private readonly send: (
      operations: MarkOperation[],
      archive: string,
    ) => Promise<Api['AppliedMarksDto']> = (operations, archive) => post('/marks', { operations, archive }),
  ) {
    // Kept marks show at once, before it is known whether they may go out.
    this.owner = storage.getItem(OWNER);
    this.pending = this.restore(this.key);
    this.state = { waiting: this.pending.length, trouble: null };
  }

  /**
   * Says which archive is served here; from then on marks go out. Two archives may be served at one address, one after
   * the other: neither gets the other's marks.
   */
  belongsTo(archive: string): void {
    if (this.archive === archive) return;
    if (this.owner !== archive) {
      // Those of the archive that was served here before stay kept for it; those of nobody yet are this one's.
      const nobodys = this.owner === null ? this.pending : [];
      this.owner = archive;
      this.pending = [...this.restore(this.key), ...nobodys];
      this.storage.setItem(OWNER, archive);
      this.keep();
      this.storage.removeItem(UNOWNED);
    }
    this.archive = archive;
    void this.flush();
  }

  private get key(): string {
    return this.owner === null ? UNOWNED : `${UNOWNED}.${this.owner}`;
  }

  /** Operations not yet known to be durable, oldest first. */
  get waiting(): readonly MarkOperation[] {
    return this.pending;
  }

  add(operations: readonly MarkOperation[]): void {
    if (operations.length === 0) return;
    this.pending = [...this.pending, ...operations];
    this.keep();
    void this.flush();
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): QueueState => this.state;

  private async flush(): Promise<void> {
    const { archive } = this;
    if (this.sending || archive === null || this.pending.length === 0) return;
    this.sending = true;
    try {
      while (this.pending.length > 0 && this.archive === archive) {
        const batch = this.pending.slice(0, BATCH);
        await this.send(batch, archive);
        if (this.archive !== archive) break;
        this.pending = this.pending.slice(batch.length);
        this.wait = RETRY[0];
        this.trouble = null;
        this.keep();
      }
    } catch (error) {
      this.trouble =
        error instanceof ApiFailure ? `${error.body.message} ${error.body.next}` : (error as Error).message;
      this.keep();
      setTimeout(() => void this.flush(), this.wait);
      this.wait = Math.min(this.wait * 2, RETRY[1]);
    } finally {
      this.sending = false;
      if (this.archive !== archive) void this.flush();
    }
  }

  private keep(): void {
    if (this.pending.length === 0) this.storage.removeItem(this.key);
    else this.storage.setItem(this.key, JSON.stringify(this.pending));
    this.state = { waiting: this.pending.length, trouble: this.trouble };
    this.listeners.forEach((listener) => listener());
  }

  private restore(key: string): MarkOperation[] {
    try {
      const kept: unknown = JSON.parse(this.storage.getItem(key) ?? '[]');
      return Array.isArray(kept) ? (kept as MarkOperation[]) : [];
    } catch {
      return [];
    }
  }
}
