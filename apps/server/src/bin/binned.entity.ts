import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { AssetRole } from '@arkiv/core';

/** `bin`: files lie in the bin of each drive; `forget`: they were left where they lay. */
export type BinDeed = 'bin' | 'forget';

/** One time that frames of a shoot were binned or forgotten. */
@Entity('bin')
export class Bin {
  @PrimaryColumn('text') id: string;
  @Column('text') deed: BinDeed;
  @Column('text') shootId: string;
  /** what its folder is called in the bin of each drive */
  @Column('text') folder: string;
  @Column('integer') at: number;
}

/** A frame that can be brought back. Its row says where it lay, its marks are kept as they were. */
@Entity('binned_frame')
export class BinnedFrameRow {
  @PrimaryColumn('text') frameId: string;
  @Column('text') binId: string;
}

/** One file of such a frame, as the archive knew it. */
@Entity('binned_file')
export class BinnedFile {
  @PrimaryColumn('text') assetId: string;
  @Column('text') frameId: string;
  @Column('text') role: AssetRole;
  @Column('text') format: string;
  @Column('boolean') raw: boolean;
  @Column('text', { nullable: true }) sha256: string | null;
  @Column('text', { nullable: true }) ends: string | null;
  @Column('text', { nullable: true }) picture: string | null;
  @Column('integer') size: number;
  @Column('text') cardPath: string;
  /** where it lay below each drive */
  @Column('text') at: string;
}

/**
 * What lies on one drive of such a file. It proves nothing. `due`: what is still to be done with it on a drive that was
 * away: it goes into the bin, comes back, or is deleted.
 */
@Entity('binned_copy')
export class BinnedCopy {
  @PrimaryColumn('text') assetId: string;
  @PrimaryColumn('text') volumeId: string;
  @Column('text') frameId: string;
  @Column('text') binId: string;
  /** where it lies now below its drive */
  @Column('text') path: string;
  /** what it should hold; null: never read whole */
  @Column('text', { nullable: true }) sha256: string | null;
  /** bytes that it should have; null: it was known to be damaged */
  @Column('integer', { nullable: true }) size: number | null;
  /** of the proof that it was before */
  @Column('integer', { nullable: true }) verifiedAt: number | null;
  @Column('boolean') pastCache: boolean;
  @Column('text', { nullable: true }) due: 'bin' | 'back' | 'delete' | null;
}
