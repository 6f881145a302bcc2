import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The frames of one pass that lie in one shoot: they stand together among the pass's frames. */
@Entity('pass_part')
export class PassPart {
  @PrimaryColumn('text') passId: string;
  @PrimaryColumn('text') shootId: string;
  /** parts stand one after the other in this order */
  @Column('integer') ordinal: number;
  @Column('integer') frames: number;
  /** of its frames, by the studio's rules when it was looked at last */
  @Column('integer') kept: number;
  @Column('integer') rejected: number;
}
