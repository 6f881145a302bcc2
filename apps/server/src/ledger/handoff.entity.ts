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
  /** what a sidecar, or a JPEG inside, said there when it was written last; null: it is neither, or nobody knows */
  @Column('simple-json', { nullable: true }) said: SidecarModel | null;
  /** checksum of a JPEG's copy as it was written, with what is said inside; null: nothing is, or another program has written to it */
  @Column('text', { nullable: true }) written: string | null;
  /** checksum of the text of its packet; null: it is no such copy */
  @Column('text', { nullable: true }) packet: string | null;
  /** when the file was written last, as its drive said when it was looked at; milliseconds since 1970 UTC; null: nobody has looked */
  @Column('real', { nullable: true }) mtimeMillis: number | null;
}
