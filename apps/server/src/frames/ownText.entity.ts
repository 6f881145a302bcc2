import type { SidecarModel } from '@arkiv/core';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/**
 * A text that Arkiv writes (sidecar, manifest), with the hash it had when we last wrote it; or a sidecar that another program writes for one
 * file of a frame (`<base>.<ext>.xmp`), with the one it had when we last read it.
 */
@Entity('own_text')
export class OwnText {
  @PrimaryColumn('text') volumeId: string;
  @PrimaryColumn('text') path: string;
  @Column('text') sha256: string;
  /** hash of the text that was about to be put there: a drive that is pulled right then has it, and nobody has noted that; null: none is */
  @Column('text', { nullable: true }) placing: string | null;
  /** key of what other programs keep in it, as we last wrote it; null: nobody noted that */
  @Column('text', { nullable: true }) foreign: string | null;
  /** what another program's said when we last read it; null: it is ours */
  @Column('simple-json', { nullable: true }) said: SidecarModel | null;
}
