import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { OutputSpec, readSpec } from '@arkiv/core';

export interface DeliveryZip {
  path: string;
  /** bytes */
  size: number;
  sha256: string;
}

/** What goes into a set beside its finished files. */
export interface SetAlong {
  /** name of the folder of the raws, with their sidecars; null: they stay here */
  raws: string | null;
  /** a PDF of all pictures with their names */
  sheet: boolean;
  /** the set as a bag (RFC 8493) */
  bag: boolean;
}

/** What a set has of its own beside the files of its frames: manifest, proof sheet. */
export interface SetText {
  /** below the volume */
  path: string;
  sha256: string;
}

/** Numbers of parts of a frame's files that no spec makes. */
export const RAW_PART = -1;
export const RAW_SIDECAR_PART = -2;

/** `posting`: it was posted online by hand, and entered. */
export type DeliveryKind = 'set' | 'posting' | 'mail';

/** Finished pictures for a client. Kept for ever; its job may be gone. */
@Entity('delivery')
export class Delivery {
  /** the id of the job that made it, where one did */
  @PrimaryColumn('text') id: string;
  @Column('text', { default: 'set' }) kind: DeliveryKind;
  @Column('text') shootId: string;
  /** empty: it lies on no drive */
  @Column('text') volumeId: string;
  /** how the set is called, or where it was posted */
  @Column('text') name: string;
  @Column('text') title: string;
  /** how its files are made; of one that an earlier version made, one spec as that kept it */
  @Column('simple-json') spec: OutputSpec[] | Parameters<typeof readSpec>[0];
  /** which of the keepers it is of, as a line of words and facts; empty: all of them */
  @Column('text', { default: '' }) line: string;
  /** below the volume */
  @Column('text') folder: string;
  /** the set as it was before, in the same folder; null: it is new */
  @Column('text', { nullable: true }) follows: string | null;
  @Column('simple-json', { default: '{"raws":null,"sheet":false,"bag":false}' }) along: SetAlong;
  /** all that was ever to be written of these, so that what lies there is known again */
  @Column('simple-json', { default: '[]' }) texts: SetText[];
  /** null: not made yet */
  @Column('simple-json', { nullable: true }) zip: DeliveryZip | null;
  @Column('integer') at: number;
  /** null: not finished */
  @Column('integer', { nullable: true }) finishedAt: number | null;
}

@Entity('delivery_file')
export class DeliveryFile {
  @PrimaryColumn('text') deliveryId: string;
  @PrimaryColumn('integer') seq: number;
  /** number of its job's item: a frame's files are made together */
  @Column('integer', { default: 0 }) item: number;
  /** the number that its frame has in names of this set; a frame keeps it when the set is brought up to date */
  @Column('integer', { default: 0 }) number: number;
  /** which of the delivery's specs it is made by; or one of {@link RAW_PART} and {@link RAW_SIDECAR_PART} */
  @Column('integer', { default: 0 }) spec: number;
  @Column('text') frameId: string;
  /** key of the picture it is made of; null: the frame has none */
  @Column('text', { nullable: true }) picture: string | null;
  /** the frame's name */
  @Column('text') from: string;
  /** below the volume */
  @Column('text') to: string;
  @Column('text') fate: 'todo' | 'made' | 'failed';
  /** digest of all that decides its bytes; null: of a set that an earlier version made */
  @Column('text', { nullable: true }) recipe: string | null;
  /** of the file that lies there: the one made, or, where it is still to do or could not be made anew, the one of before */
  @Column('text', { nullable: true }) sha256: string | null;
  /** bytes */
  @Column('integer', { nullable: true }) size: number | null;
  /** pixels */
  @Column('integer', { nullable: true }) width: number | null;
  @Column('integer', { nullable: true }) height: number | null;
}
