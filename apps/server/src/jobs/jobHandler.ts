import type { EntityManager } from 'typeorm';
import type { Lane } from './lanes';
import type { ItemState, JobDeed, Job, JobItem, JobKind } from './job.entity';
import type { NewItem } from './jobStore';

export interface ItemContext {
  signal: AbortSignal;
  /** bytes as they go by, for the progress line */
  onBytes: (bytes: number) => void;
}

export interface ItemOutcome {
  state: Extract<ItemState, 'done' | 'failed' | 'skipped'>;
  reason?: string;
  /** rows that belong to this step; written in the same transaction as the item's state */
  commit?: (manager: EntityManager) => Promise<void>;
}

/** What a job's line shows of what it works on. */
export interface ShownSubjects {
  /** what it does, where jobs of its kind do several things */
  deed?: JobDeed | null;
  /** the shoot that frames leave, where that is another one */
  fromShootId?: string | null;
  readerId?: string | null;
  /** what the card is called that it works on: another one may lie in the same reader by now */
  card?: string | null;
}

/** What one kind of job does. Each step can be repeated at any time with the same result. */
export interface JobHandler {
  kind: JobKind;
  /** items worked on at once */
  inFlight: number;
  /** Its items are the only record of how to go back: they stay when it is over for long. */
  keepsItems?: boolean;
  /** Its place among jobs that run at the same time. */
  lane(job: Job): Lane;
  shown?(job: Job): ShownSubjects;
  /** Before the first item of each run: checks what must be there and clears what a killed run left. */
  begin(job: Job): Promise<void>;
  /**
   * The next items of a job that makes them as it goes, after the last one that was made; none when all
   * are. `ahead`: as the job keeps it.
   */
  more?(job: Job, last: JobItem | null): Promise<{ items: NewItem[]; ahead: string }>;
  /**
   * What was written for a job that never began goes again, but for its own rows: nobody was told that it would begin.
   * Can be repeated.
   */
  undo?(job: Job): Promise<void>;
  /** Before a job that was over is tried again: throws when something else is at work on the same files by now. */
  again?(job: Job): Promise<void>;
  runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome>;
  /** After a job was cancelled: brings what it had begun to an end that can be left. `runItem` does an item as usual. */
  cancelled?(job: Job, runItem: (item: JobItem) => Promise<void>): Promise<void>;
  /** After the last item; its value is the job's result. A `reason` in it tells of a trouble that no single item had. */
  finish(job: Job): Promise<object>;
}

/** Thrown when something outside has to come back first; the job waits, the item is done again. */
export class WaitForOutside extends Error {}
