import { Column, Entity, Index, PrimaryGeneratedColumn } from 'typeorm';
import type { MarkField, MarkValue } from '@arkiv/core';

/** The journal of marks: every decision in the order in which it was applied. Never changed, never deleted. */
@Entity('mark')
@Index(['id'], { unique: true })
@Index(['frameId'])
export class Mark {
  @PrimaryGeneratedColumn() seq: number;
  @Column('text') id: string;
  @Column('text') frameId: string;
  @Column('text') field: MarkField;
  @Column('simple-json', { nullable: true }) from: MarkValue;
  @Column('simple-json', { nullable: true }) to: MarkValue;
  @Column('integer') at: number;
  @Column('text') group: string;
  @Column('text') window: string;
  /** 1: `from` no longer held when it was applied */
  @Column('integer') overtook: number;
}
