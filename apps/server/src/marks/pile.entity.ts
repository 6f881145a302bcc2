import { Column, Entity, Index, PrimaryColumn } from 'typeorm';

/** A passing, named set of frames over all shoots; which frames are in it stands with these. */
@Entity('pile')
export class Pile {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  /** 1…9: the digit that chooses it; null: it is chosen by its name */
  @Index('pile_number', { unique: true, where: '"number" IS NOT NULL' })
  @Column('integer', { nullable: true })
  number: number | null;
  /** not offered any more; it is there again when an undo puts a frame into it */
  @Column('boolean') removed: boolean;
}
