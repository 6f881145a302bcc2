import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

export type JobKind =
  | 'intake'
  | 'handoff'
  | 'delivery'
  | 'copy'
  | 'verify'
  | 'clear'
  | 'move'
  | 'bin'
  | 'release'
  | 'derive'
  | 'take-back'
  | 'return'
  | 'send'
  | 'gallery'
  | 'rebuild'
  | 'carry'
  | 'adopt';
/** What a job of a kind that does several things does. */
export const JOB_DEEDS = [
  ...(['split', 'merge', 'rename', 'aside', 'back', 'arrange', 'takeIn'] as const),
  ...(['bin', 'forget', 'delete', 'bring-back', 'empty'] as const),
  'first-reading' as const,
];
export type JobDeed = (typeof JOB_DEEDS)[number];
export type JobState = 'queued' | 'running' | 'paused' | 'waiting' | 'done' | 'failed' | 'cancelled';
export type ItemState = 'todo' | 'doing' | 'done' | 'failed' | 'skipped';

/**
 * Long work that is under way or just over. What came of it for ever stands in the ledger and at the rows it changed:
 * a job that is over, and its items, may go. `waiting`: something outside must come back first (a card, a volume).
 */
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
  /** these are kept in step with its items, in the same transactions */
  @Column('integer') filesDone: number;
  @Column('integer') filesFailed: number;
  @Column('integer') bytesDone: number;
  /** why the item that failed last did */
  @Column('text', { nullable: true }) trouble: string | null;
  /** its items are made as it goes: those of shoots whose id is this or a later one are still to come; null: all are made */
  @Column('text', { nullable: true }) ahead: string | null;
  @Column('integer') createdAt: number;
  @Column('integer', { nullable: true }) startedAt: number | null;
  @Column('integer', { nullable: true }) finishedAt: number | null;
  /** of jobs that share a way, the higher goes first */
  @Column('integer') priority: number;
  /** its rows are still being written, in parts: it begins when all are there, and is undone where the server ended before */
  @Column('boolean', { default: false }) beginning: boolean;
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
  /** what a report calls it */
  @Column('text') name: string;
  /** the shoot that its file belongs to, where the job works across shoots */
  @Column('text', { nullable: true }) shootId: string | null;
  @Column('simple-json') data: object;
}

/** What a job does to what it works on: it needs the files as they are, gives them other names, or deletes them. */
export type Deed = 'reads' | 'moves' | 'clears';

/** What a job works on. `*` stands for all of a kind. */
@Entity('job_subject')
export class JobSubject {
  @PrimaryColumn('text') jobId: string;
  @PrimaryColumn('text') kind: 'shoot' | 'reader';
  @PrimaryColumn('text') id: string;
  @Column('text') deed: Deed;
}

/** A job that goes on by itself, now or when something returns. */
export const OPEN: Job['state'][] = ['queued', 'running', 'waiting'];
/** A job that is not over: a paused one still has its work to do. */
export const NOT_OVER: Job['state'][] = [...OPEN, 'paused'];
/** A job that has ended, one way or the other. */
export const OVER: Job['state'][] = ['done', 'failed', 'cancelled'];
