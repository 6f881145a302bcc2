import type { WatchType } from '@arkiv/core';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** `keep`: what was taken in stays in the folder. `bin`: once it is proven it goes into the folder's own bin. */
export type WatchAfter = 'keep' | 'bin';

/** A file that could not be taken in, as it was then: it is tried again when it has changed, or when somebody asks. */
export interface LeftFile {
  path: string;
  stamp: string;
  reason: string;
}

/** A folder that is watched, and what becomes of the pictures that come into it. */
@Entity('watch_rule')
export class WatchRule {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  /** full path on this machine */
  @Column('text') root: string;
  @Column('boolean') on: boolean;
  @Column('simple-json') types: WatchType[];
  /** folders below it too */
  @Column('boolean') below: boolean;
  /** name of a folder below it whose pictures stay out; empty: there is none */
  @Column('text') out: string;
  /** a file that has not changed for so long is whole */
  @Column('integer') settleSeconds: number;
  /** the shoot that all go into; null: one for each day */
  @Column('text', { nullable: true }) shootId: string | null;
  /** of shoots that are made for it */
  @Column('text') title: string;
  @Column('text') client: string;
  @Column('text') place: string;
  /** id of a saved plan; null: the studio's own */
  @Column('text', { nullable: true }) plan: string | null;
  /** id of a metadata template; null: none */
  @Column('text', { nullable: true }) template: string | null;
  /** id of an album that the frames are put into; null: none */
  @Column('text', { nullable: true }) album: string | null;
  @Column('text') after: WatchAfter;
  /** paths of the files that are being taken in; null: none are */
  @Column('simple-json', { nullable: true }) batch: string[] | null;
  @Column('simple-json') left: LeftFile[];
  /** why nothing is taken in at the moment; null: nothing is in the way */
  @Column('text', { nullable: true }) trouble: string | null;
  /** files that were taken in, and when the last of them were */
  @Column('integer') taken: number;
  @Column('integer', { nullable: true }) takenAt: number | null;
  @Column('integer') createdAt: number;
}
