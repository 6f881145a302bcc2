import type { AdoptRule } from '@arkiv/core';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A folder whose pictures are in the archive where they lie. */
@Entity('adopted')
export class Adopted {
  @PrimaryColumn('text') id: string;
  @Column('text') volumeId: string;
  /** below its drive; empty: the drive itself */
  @Column('text') path: string;
  /** which folders below it are shoots */
  @Column('text') rule: AdoptRule;
  /** whether sidecars may be written beside its pictures */
  @Column('boolean') sidecars: boolean;
  @Column('integer') createdAt: number;
}

/** What a shoot is of an adopted folder. */
@Entity('adopted_shoot')
export class AdoptedShoot {
  @PrimaryColumn('text') adoptedId: string;
  /** see `ShootOfFolder` */
  @PrimaryColumn('text') key: string;
  @Column('text') shootId: string;
}
