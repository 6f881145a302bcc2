import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A folder that the owner added as a place where cards appear. */
@Entity('reader')
export class FolderReader {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  @Column('text') root: string;
}
