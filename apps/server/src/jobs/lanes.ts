import type { Job, JobKind } from './job.entity';

/** Jobs that move many bytes; the others are never in anyone's way. */
const BULK: readonly JobKind[] = ['intake', 'copy', 'verify', 'clear', 'handoff'];

type InLane = Pick<Job, 'id' | 'kind' | 'priority' | 'createdAt' | 'params'>;

const readerOf = ({ params }: InLane) => (params as { readerId?: string }).readerId;

/**
 * The one of `others`, all at work, that `job` makes way for: one that was put first, or an earlier one from the same
 * reader, which two readings at once would only slow down. A job that waits or is paused is in nobody's way.
 */
export function jobAhead<J extends InLane>(job: InLane, others: readonly J[]): J | null {
  if (!BULK.includes(job.kind)) return null;
  for (const other of others) {
    if (other.id === job.id || !BULK.includes(other.kind)) continue;
    if (other.priority > job.priority) return other;
    const earlier =
      other.createdAt < job.createdAt || (other.createdAt === job.createdAt && other.id < job.id);
    const sameWay = readerOf(job) !== undefined && readerOf(other) === readerOf(job);
    if (sameWay && earlier && other.priority === job.priority) return other;
  }
  return null;
}
