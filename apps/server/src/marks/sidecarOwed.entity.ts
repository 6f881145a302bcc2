import { Entity, PrimaryColumn } from 'typeorm';

/** A drive that was away when a frame's sidecar was written: it gets it when it is back. */
@Entity('sidecar_owed')
export class SidecarOwed {
  @PrimaryColumn('text') volumeId: string;
  @PrimaryColumn('text') frameId: string;
}
