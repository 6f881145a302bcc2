import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { OutputSpec, readSpec } from '@arkiv/core';

export interface DeliveryZip {
  path: string;
  /** bytes */
  size: number;
  sha256: string;
}

/** Finished pictures for a client. Kept for ever; its job may be gone. */
@Entity('delivery')
export class Delivery {
  /** the id of the job that made it */
  @PrimaryColumn('text') id: string;
  @Column('text') shootId: string;
  @Column('text') volumeId: string;
  @Column('text') name: string;
  @Column('text') title: string;
  /** how its files are made; of one that an earlier version made, one spec as that kept it */
  @Column('simple-json') spec: OutputSpec[] | Parameters<typeof readSpec>[0];
  /** which of the keepers it is of, as a line of words and facts; empty: all of them */
  @Column('text', { default: '' }) line: string;
  /** below the volume */
  @Column('text') folder: string;
  /** null: not made yet */
  @Column('simple-json', { nullable: true }) zip: DeliveryZip | null;
  @Column('integer') at: number;
  /** null: not finished */
  @Column('integer', { nullable: true }) finishedAt: number | null;
}

@Entity('delivery_file')
export class DeliveryFile {
  @PrimaryColumn('text') deliveryId: string;
  @PrimaryColumn('integer') seq: number;
  /** number of its job's item: a frame's files are made together */
  @Column('integer', { default: 0 }) item: number;
  /** which of the delivery's specs it is made by */
  @Column('integer', { default: 0 }) spec: number;
  @Column('text') frameId: string;
  /** key of the picture it is made of; null: the frame has none */
  @Column('text', { nullable: true }) picture: string | null;
  /** the frame's name */
  @Column('text') from: string;
  /** below the volume */
  @Column('text') to: string;
  @Column('text') fate: 'todo' | 'made' | 'failed';
  /** of the file made */
  @Column('text', { nullable: true }) sha256: string | null;
  /** bytes */
  @Column('integer', { nullable: true }) size: number | null;
  /** pixels */
  @Column('integer', { nullable: true }) width: number | null;
  @Column('integer', { nullable: true }) height: number | null;
}
