import { Column, Entity, PrimaryColumn } from 'typeorm';

/** What became of a file: by the archive, or seen of what others did. */
export const TRAIL_KINDS = [
  ...(['renamed', 'moved', 'binned', 'forgotten', 'brought-back', 'deleted'] as const),
  ...(['taken-off', 'missing', 'damaged', 'repaired', 'changed', 'gone'] as const),
];
export type TrailKind = (typeof TRAIL_KINDS)[number];

/** One change to a frame's files or to one copy, for ever. */
@Entity('trail')
export class Trail {
  /** in the order in which they happened; the database gives it */
  @PrimaryColumn('integer') seq: number;
  @Column('integer') at: number;
  @Column('text') kind: TrailKind;
  @Column('text') shootId: string;
  /** null: a file of no frame */
  @Column('text', { nullable: true }) frameId: string | null;
  /** the drive whose copy it was; null: wherever it lies */
  @Column('text', { nullable: true }) volumeId: string | null;
  /** where it lay, below its drive; of a frame without its files' endings */
  @Column('text', { nullable: true }) from: string | null;
  @Column('text', { nullable: true }) to: string | null;
  /** to be read after the path; null: nothing is to be said */
  @Column('text', { nullable: true }) reason: string | null;
}
