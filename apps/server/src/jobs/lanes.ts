import type { Job } from './job.entity';

/** A job's place among those that run at the same time. */
export interface Lane {
  /** it moves many bytes; the others are never in anyone's way */
  bulk: boolean;
  /** jobs of one way, such as one reader, go one after the other; null: it has none to share */
  way: string | null;
  /** what can be made later waits while it runs: proof comes first */
  first: boolean;
}

export type InLane = Pick<Job, 'id' | 'priority' | 'createdAt'> & { lane: Lane };

/**
 * The one of `others`, all at work, that `job` makes way for: one that was put first, or an earlier one on the same
 * way, which two readings at once would only slow down. A job that waits or is paused is in nobody's way.
 */
export function jobAhead<J extends InLane>(job: InLane, others: readonly J[]): J | null {
  if (!job.lane.bulk) return null;
  for (const other of others) {
    if (other.id === job.id || !other.lane.bulk) continue;
    if (other.priority > job.priority) return other;
    const earlier =
      other.createdAt < job.createdAt || (other.createdAt === job.createdAt && other.id < job.id);
    const sameWay = job.lane.way !== null && other.lane.way === job.lane.way;
    if (sameWay && earlier && other.priority === job.priority) return other;
  }
  return null;
}
