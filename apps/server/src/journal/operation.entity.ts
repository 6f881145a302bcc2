import { Column, Entity, Index, PrimaryGeneratedColumn } from 'typeorm';
import type { Operation } from '@arkiv/core';

/** The journal: every decision in the order in which it was applied. Never changed, never deleted. */
@Entity('operation')
@Index(['id'], { unique: true })
export class JournalEntry implements Operation {
  @PrimaryGeneratedColumn() seq: number;
  @Column('text') id: string;
  @Column('text') kind: string;
  @Column('text') subject: string;
  /** the shoot in which it was made */
  @Column('text') shootId: string;
  @Column('simple-json', { nullable: true }) from: unknown;
  @Column('simple-json', { nullable: true }) to: unknown;
  @Column('integer') at: number;
  @Column('text') by: string;
  @Column('text') group: string;
  @Column('text', { nullable: true }) pass: string | null;
  @Column('text') window: string;
  @Column('text', { nullable: true }) undoes: string | null;
  /** 1: `from` no longer held when it was applied */
  @Column('integer') overtook: number;
}
