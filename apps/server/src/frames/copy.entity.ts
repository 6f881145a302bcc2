import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A file on one volume: one that was read back and found identical, or one that was found there and not read yet. */
@Entity('copy')
export class Copy {
  @PrimaryColumn('text') assetId: string;
  @PrimaryColumn('text') volumeId: string;
  /** where it lies when that is not the archive's place for it; names that are no text are escaped as on cards */
  @Column('text', { nullable: true }) path: string | null;
  /** bytes as last seen there; null: as the file's own */
  @Column('integer', { nullable: true }) size: number | null;
  /** as last seen there; null: not looked at */
  @Column('integer', { nullable: true }) mtime: number | null;
  /** null: never read whole since it was found */
  @Column('integer', { nullable: true }) verifiedAt: number | null;
  @Column('boolean') pastCache: boolean;
}

/** A copy with what it should hold, and where it lies. */
export interface CopyAt {
  assetId: string;
  volumeId: string;
  verifiedAt: number | null;
  shootId: string;
  frameId: string | null;
  sha256: string | null;
  size: number;
  at: string;
  /** 1: it lies in a place of its own on its drive, and not where its frame's name says */
  own: 0 | 1;
}
