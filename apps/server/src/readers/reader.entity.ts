import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A folder that the owner added as a place where cards appear. */
@Entity('reader')
export class FolderReader {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  @Column('text') root: string;
}

/** The owner's word on which device a reader's cards lie on, where it cannot be found out. */
@Entity('reader_device')
export class ReaderDevice {
  @PrimaryColumn('text') readerId: string;
  @Column('text') device: string;
}
