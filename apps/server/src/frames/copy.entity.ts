import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** An asset on one volume. A row stands only for a copy that was read back and found identical. */
@Entity('copy')
@Index(['volumeId', 'path'], { unique: true })
@Index(['assetId'])
export class Copy {
  @PrimaryColumn('text') id: string;
  @Column('text') assetId: string;
  @Column('text') volumeId: string;
  @Column('text') path: string;
  @Column('integer') verifiedAt: number;
  @Column('boolean') pastCache: boolean;
}
