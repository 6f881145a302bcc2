import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { FolderPlan, SequenceScope } from '@arkiv/core';

@Entity('shoot')
export class Shoot {
  @PrimaryColumn('text') id: string;
  @Column('text') title: string;
  /** YYYY-MM-DD */
  @Column('text') date: string;
  @Column('text') client: string;
  @Column('text') place: string;
  /** shoot folders below each volume; the first is its home */
  @Column('simple-json') folders: string[];
  @Column('simple-json') plan: FolderPlan;
  @Column('text') pattern: string;
  @Column('integer') nextSeq: number;
  /** whether its numbers run through it or begin anew each day */
  @Column('text') seqBy: SequenceScope;
  @Column('integer') zoneMinutes: number;
  @Column('integer') createdAt: number;
  /** counts every change that a loaded shoot must learn of */
  @Column('integer') revision: number;
  /** the shoot that all its frames went into; such a shoot is not listed any more */
  @Column('text', { nullable: true }) mergedInto: string | null;
}
