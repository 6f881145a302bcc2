import { Column, Entity, PrimaryColumn } from 'typeorm';

/**
 * The cosine hash of a picture's look, in four bands (`bandsOf`), each with an index: what looks like a given picture is found among
 * a million without a look at each. It can be made again from the preview at any time.
 */
@Entity('picture_hash')
export class PictureHash {
  /** picture key */
  @PrimaryColumn('text') picture: string;
  /** of the preview and of the look */
  @Column('integer') maker: number;
  @Column('integer') band0: number;
  @Column('integer') band1: number;
  @Column('integer') band2: number;
  @Column('integer') band3: number;
}
