import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** One going-through of a shoot's frames. What was decided in it stands in the journal under its id. */
@Entity('pass')
@Index('pass_shoot', ['shootId', 'begunAt'])
export class Pass {
  /** ULID from the window that began it */
  @PrimaryColumn('text') id: string;
  @Column('text') shootId: string;
  /** what it looks at, in words: `undecided` */
  @Column('text') name: string;
  /** ids of its frames when it began, in their order then */
  @Column('simple-json') frames: string[];
  @Column('integer') total: number;
  /** how often frames of it went into other shoots, each of which may have changed their order */
  @Column('integer', { default: 0 }) arranged: number;
  /** places of the seen ones in `frames`, as core's `placesText` */
  @Column('text') seen: string;
  @Column('integer') seenCount: number;
  /** the frame where it goes on */
  @Column('text', { nullable: true }) at: string | null;
  /** of its frames, by the studio's rules when it was looked at last */
  @Column('integer') kept: number;
  @Column('integer') rejected: number;
  @Column('integer') activeMillis: number;
  @Column('integer') begunAt: number;
  @Column('integer') changedAt: number;
  @Column('integer', { nullable: true }) endedAt: number | null;
  @Column('integer', { nullable: true }) undoneAt: number | null;
}
