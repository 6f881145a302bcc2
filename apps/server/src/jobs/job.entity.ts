import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

export type JobKind = 'intake' | 'handoff' | 'delivery' | 'copy' | 'verify' | 'clear' | 'move';
export type JobState = 'queued' | 'running' | 'paused' | 'waiting' | 'done' | 'failed' | 'cancelled';
export type ItemState = 'todo' | 'doing' | 'done' | 'failed' | 'skipped';

/** Long work. `waiting`: something outside must come back first (a card, a volume). */
@Entity('job')
export class Job {
  @PrimaryColumn('text') id: string;
  @Column('text') kind: JobKind;
  @Column('text') title: string;
  @Column('text', { nullable: true }) shootId: string | null;
  @Column('text') state: JobState;
  /** why it waits or failed */
  @Column('text', { nullable: true }) reason: string | null;
  @Column('simple-json') params: object;
  @Column('simple-json', { nullable: true }) result: object | null;
  @Column('integer') filesTotal: number;
  @Column('integer') bytesTotal: number;
  @Column('integer') createdAt: number;
  @Column('integer', { nullable: true }) startedAt: number | null;
  @Column('integer', { nullable: true }) finishedAt: number | null;
  /** of jobs that share a way, the higher goes first */
  @Column('integer') priority: number;
  /** somebody has seen how it ended */
  @Column('boolean', { default: false }) seen: boolean;
}

@Entity('job_item')
@Index(['jobId', 'state'])
export class JobItem {
  @PrimaryColumn('text') jobId: string;
  @PrimaryColumn('integer') seq: number;
  @Column('text') state: ItemState;
  @Column('text', { nullable: true }) reason: string | null;
  @Column('integer') attempt: number;
  /** bytes */
  @Column('integer') size: number;
  @Column('simple-json') data: object;
}

/** A job that goes on by itself, now or when something returns. */
export const OPEN: Job['state'][] = ['queued', 'running', 'waiting'];
/** A job that is not over: a paused one still has its work to do. */
export const NOT_OVER: Job['state'][] = [...OPEN, 'paused'];
