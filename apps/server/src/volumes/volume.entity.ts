import { Column, Entity, PrimaryColumn } from 'typeorm';

export type VolumeRole = 'working' | 'backup' | 'edit';

@Entity('volume')
export class Volume {
  /** the id in the file at the volume's root */
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  /** where it was last seen on this machine; never leaves the server */
  @Column('text') root: string;
  @Column('text') role: VolumeRole;
  /** two volumes on one device count as one copy */
  @Column('text') device: string;
  @Column('integer') addedAt: number;
}
