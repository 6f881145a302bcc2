import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** A set on its way to a destination, or there. Kept for ever; its job may be gone. */
@Entity('sent')
@Index(['deliveryId'])
export class Sent {
  /** the id of the job that carried it */
  @PrimaryColumn('text') id: string;
  @Column('text') deliveryId: string;
  @Column('text') shootId: string;
  /** the destination, which may be changed or forgotten since */
  @Column('text') destinationId: string;
  /** what it was called, and where it was, without anything secret */
  @Column('text') destination: string;
  @Column('text') place: string;
  /** below the destination */
  @Column('text') folder: string;
  /** another program carries on what was put there: that it arrived was not proven */
  @Column('boolean', { default: false }) carried: boolean;
  /** somebody said that it arrived where it was carried to */
  @Column('integer', { nullable: true }) confirmedAt: number | null;
  @Column('integer') at: number;
  /** when it was over, whatever of it is there; null: it is under way, or was given up */
  @Column('integer', { nullable: true }) finishedAt: number | null;
}

/** `arrived`: read back from there, and the same. */
export type SentFate = 'todo' | 'arrived' | 'failed';

@Entity('sent_file')
export class SentFile {
  @PrimaryColumn('text') sentId: string;
  @PrimaryColumn('integer') seq: number;
  /** the frame that it shows; null: it is of the whole set */
  @Column('text', { nullable: true }) frameId: string | null;
  /** below the drive that the set lies on */
  @Column('text') from: string;
  /** below the destination */
  @Column('text') to: string;
  /** bytes */
  @Column('integer') size: number;
  @Column('text') sha256: string;
  @Column('text') fate: SentFate;
  /** when it was read back from there; null: it was not */
  @Column('integer', { nullable: true }) provenAt: number | null;
}
