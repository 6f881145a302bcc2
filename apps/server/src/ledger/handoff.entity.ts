import { Column, Entity, Index, PrimaryColumn } from 'typeorm';
import type { AssetRole, SidecarModel } from '@arkiv/core';

/** Keepers that were handed to editing. Kept for ever; its job may be gone. */
@Entity('handoff')
export class Handoff {
  /** the id of the job that did it */
  @PrimaryColumn('text') id: string;
  @Column('text') shootId: string;
  @Column('text') volumeId: string;
  @Column('integer') frames: number;
  /** to whom; empty: nobody was named */
  @Column('text', { default: '' }) person: string;
  @Column('integer') at: number;
  /** null: not finished */
  @Column('integer', { nullable: true }) finishedAt: number | null;
}

@Entity('handoff_file')
export class HandoffFile {
  @PrimaryColumn('text') handoffId: string;
  @PrimaryColumn('integer') seq: number;
  @Column('text', { nullable: true }) frameId: string | null;
  /** null: a sidecar, whose text is Arkiv's own */
  @Column('text', { nullable: true }) assetId: string | null;
  @Column('text') role: AssetRole;
  /** below the volume it comes from */
  @Column('text') from: string;
  /** below the target volume */
  @Column('text') to: string;
  /** bytes */
  @Column('integer') size: number;
  @Column('text', { nullable: true }) sha256: string | null;
  @Column('text') fate: 'todo' | 'copied' | 'failed';
}

/** A file that lies with editing by now, as far as it was not taken back. */
@Entity('handed')
@Index(['shootId', 'volumeId'])
@Index(['frameId'])
export class Handed {
  @PrimaryColumn('text') volumeId: string;
  /** below that volume */
  @PrimaryColumn('text') path: string;
  @Column('text') shootId: string;
  @Column('text') frameId: string;
  /** the hand-off that brought it last */
  @Column('text') handoffId: string;
  /** null: a sidecar */
  @Column('text', { nullable: true }) sha256: string | null;
  /** bytes */
  @Column('integer') size: number;
  /** what a sidecar said there when it was written last; null: it is none, or nobody knows */
  @Column('simple-json', { nullable: true }) said: SidecarModel | null;
}
