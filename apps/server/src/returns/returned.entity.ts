import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { MatchedBy } from '@arkiv/core';

/**
 * `matched`: it is known what it was made from. `asks`: somebody has to say which of some it is. `unknown`: nothing tells. `aside`:
 * somebody said that it is of none. `over`: whoever made it saved another in its place, and no drive has it any more.
 */
export type ReturnState = 'matched' | 'asks' | 'unknown' | 'aside' | 'over';

/** A picture that came back from editing. Kept for ever; its file may be gone. */
@Entity('returned')
export class Returned {
  /** the file that it is */
  @PrimaryColumn('text') assetId: string;
  @Column('text') shootId: string;
  /** of its file, with the ending */
  @Column('text') name: string;
  /** when it was found, milliseconds since 1970 UTC */
  @Column('integer') at: number;
  @Column('text') state: ReturnState;
  /** by what it was matched, or who may be asked for; null: nothing tells */
  @Column('text', { nullable: true }) by: MatchedBy | null;
  /** ids of frames among which it is, the likeliest first; empty where it is known, or nothing tells */
  @Column('simple-json') among: string[];
  /** 1: a frame of it had an edit already when it came */
  @Column('integer') second: number;
  /** pixels of its picture as it stands upright; null: it cannot be shown */
  @Column('integer', { nullable: true }) width: number | null;
  @Column('integer', { nullable: true }) height: number | null;
}

/** What an edit was made from: several frames where it is a stack or a panorama. */
@Entity('returned_original')
export class ReturnedOriginal {
  @PrimaryColumn('text') assetId: string;
  @PrimaryColumn('text') frameId: string;
}

/** A folder besides a shoot's own in which edits of it come back. */
@Entity('return_folder')
export class ReturnFolder {
  @PrimaryColumn('text') shootId: string;
  @PrimaryColumn('text') volumeId: string;
  /** below the volume */
  @PrimaryColumn('text') path: string;
}
