import { Column, Entity, Index, PrimaryColumn } from 'typeorm';
import type { AssetRole } from '@arkiv/core';

@Entity('asset')
@Index(['sha256'])
@Index(['frameId'])
export class Asset {
  @PrimaryColumn('text') id: string;
  @Column('text') shootId: string;
  /** null for a card's files that belong to no frame */
  @Column('text', { nullable: true }) frameId: string | null;
  @Column('text') role: AssetRole;
  /** short, lower case; empty where it is none that we know */
  @Column('text') format: string;
  @Column('boolean') raw: boolean;
  @Column('text') sha256: string;
  @Column('integer') size: number;
  /** below the volume, the same on each */
  @Column('text') path: string;
  /** where it lay on its card */
  @Column('text') cardPath: string;
}
