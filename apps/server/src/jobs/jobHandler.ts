import type { EntityManager } from 'typeorm';
import type { ItemState, Job, JobItem, JobKind } from './job.entity';

export interface ItemContext {
  signal: AbortSignal;
  /** bytes as they go by, for the progress line */
  onBytes: (bytes: number) => void;
}

export interface ItemOutcome {
  state: Extract<ItemState, 'done' | 'failed' | 'skipped'>;
  reason?: string;
  data?: object;
  /** rows that belong to this step; written in the same transaction as the item's state */
  commit?: (manager: EntityManager) => Promise<void>;
}

/** What one kind of job does. Each step can be repeated at any time with the same result. */
export interface JobHandler {
  kind: JobKind;
  /** items worked on at once */
  inFlight: number;
  /** Before the first item of each run: checks what must be there and clears what a killed run left. */
  begin(job: Job, items: readonly JobItem[]): Promise<void>;
  /** Before a job that was over is tried again: throws when something else is at work on the same files by now. */
  again?(job: Job, items: readonly JobItem[]): Promise<void>;
  runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome>;
  /** After a job was cancelled: brings what it had begun to an end that can be left. `runItem` does an item as usual. */
  cancelled?(job: Job, items: readonly JobItem[], runItem: (item: JobItem) => Promise<void>): Promise<void>;
  /** After the last item; its value is the job's result. */
  /** What came of it; a `reason` in it tells of a trouble that no single item had. */
  finish(job: Job, items: readonly JobItem[]): Promise<object>;
}

/** Thrown when something outside has to come back first; the job waits, the item is done again. */
export class WaitForOutside extends Error {}
