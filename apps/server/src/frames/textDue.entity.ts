import { Column, Entity, PrimaryColumn } from 'typeorm';

/** `place`: no text, but a frame’s files, which were moved while the drive was away. Our own texts: a frame's sidecar, what a shoot says of itself, what was decided in it, the archive's own lists, those of the bin, a part of what is recorded of a shoot or of the archive. */
export type OwnTextKind = 'sidecar' | 'shoot' | 'history' | 'archive' | 'bin' | 'place' | 'record';

/** A text that a drive has not got yet: it gets it as soon as it is here and takes it. */
@Entity('text_due')
export class TextDue {
  @PrimaryColumn('text') volumeId: string;
  @PrimaryColumn('text') kind: OwnTextKind;
  /** id of the frame, the shoot or the time in the bin, the path of the archive's list, or a part of a record */
  @PrimaryColumn('text') subject: string;
  /** counts how often it became due: what was written meanwhile does not settle a later change */
  @Column('integer', { default: 1 }) times: number;
}
