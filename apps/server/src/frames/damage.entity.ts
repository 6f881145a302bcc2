import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/**
 * A copy that was there and is not what it should be any more: missing, changed or unreadable. It counts as no copy
 * until it is found good again or put right from a good one.
 */
@Entity('damage')
@Index(['assetId'])
export class Damage {
  @PrimaryColumn('text') volumeId: string;
  @PrimaryColumn('text') assetId: string;
  /** where it lies when that is not the archive's place for it */
  @Column('text', { nullable: true }) path: string | null;
  /** checksum of what lies there; null: nothing, or nothing readable */
  @Column('text', { nullable: true }) found: string | null;
  @Column('text') reason: string;
  @Column('integer') at: number;
}
