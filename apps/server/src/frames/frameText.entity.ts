import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { Foreign, SidecarModel } from '@arkiv/core';

/** What is kept of a frame and no filter asks: facts as the camera wrote them, and the base of a merge. */
@Entity('frame_text')
export class FrameText {
  @PrimaryColumn('text') frameId: string;
  @Column('text', { nullable: true }) apertureText: string | null;
  @Column('text', { nullable: true }) exposureText: string | null;
  /** what was last written to the sidecars */
  @Column('simple-json', { nullable: true }) sidecarBase: SidecarModel | null;
  /** what other programs keep in its sidecars, wherever they wrote it last; null: nobody has looked */
  @Column('simple-json', { nullable: true }) foreign: Foreign | null;
}
