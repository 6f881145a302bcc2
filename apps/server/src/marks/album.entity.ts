import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { Album } from '@arkiv/core';

/** {@link Album}; which frames are in it stands with these. */
@Entity('album')
export class AlbumRow implements Album {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  @Column('text', { nullable: true }) parent: string | null;
  @Column('text') place: string;
  @Column('text', { nullable: true }) rule: string | null;
  @Column('text', { nullable: true }) lead: string | null;
  /** taken away, with its frames left in it, so that it can be brought back as it was */
  @Column('boolean') removed: boolean;
}
