import { Column, Entity, PrimaryColumn } from 'typeorm';

export type FeatureKind = 'measures';

/** What is measured of a picture, by the newest maker that made it. It can be made again from the preview at any time. */
@Entity('feature')
export class Feature {
  /** picture key */
  @PrimaryColumn('text') picture: string;
  @PrimaryColumn('text') kind: FeatureKind;
  /** of the preview and of the measure: see `makerOf` */
  @Column('integer') maker: number;
  @Column('blob') data: Buffer;
}
