import { Column, Entity, Index, PrimaryColumn } from 'typeorm';
import type { Description, FrameKind, Label, RawFact, SidecarModel, Verdict } from '@arkiv/core';

/** A frame is `arriving` until one of its pictures is proven on a volume; only then is it shown. */
export type FrameState = 'arriving' | 'here';

@Entity('frame')
@Index(['shootId', 'instant'])
export class Frame {
  @PrimaryColumn('text') id: string;
  @Column('text') shootId: string;
  @Column('text') state: FrameState;
  /** base name of its files now */
  @Column('text') name: string;
  /** base name that the camera gave */
  @Column('text') original: string;
  /** the shoot folder it belongs to */
  @Column('text') folder: string;
  /** the folder its originals and its sidecar lie in */
  @Column('text') place: string;
  @Column('text') verdict: Verdict;
  @Column('integer') stars: number;
  @Column('text', { nullable: true }) label: Label | null;
  @Column('integer', { nullable: true }) instant: number | null;
  /** the camera's local time, YYYY-MM-DDTHH:mm:ss */
  @Column('text', { nullable: true }) local: string | null;
  @Column('integer') millis: number;
  @Column('integer', { nullable: true }) offsetMinutes: number | null;
  @Column('integer') correctionMillis: number;
  @Column('text', { nullable: true }) body: string | null;
  @Column('text', { nullable: true }) serial: string | null;
  @Column('text', { nullable: true }) lens: string | null;
  @Column('real', { nullable: true }) aperture: number | null;
  @Column('text', { nullable: true }) apertureText: string | null;
  @Column('real', { nullable: true }) exposure: number | null;
  @Column('text', { nullable: true }) exposureText: string | null;
  @Column('integer', { nullable: true }) iso: number | null;
  @Column('real', { nullable: true }) focalLength: number | null;
  @Column('integer', { nullable: true }) width: number | null;
  @Column('integer', { nullable: true }) height: number | null;
  @Column('integer') orientation: number;
  /** a clip's length */
  @Column('real', { nullable: true }) seconds: number | null;
  @Column('text') role: FrameKind['role'];
  /** of its pictures and clips, the raw first, joined by `+` */
  @Column('text') format: string;
  @Column('text') raw: RawFact;
  /** what is wrong with its picture, seen when it was decoded; null: nothing, or not yet */
  @Column('text', { nullable: true }) sign: string | null;
  /** time of the last mark, for merging with a sidecar that changed outside */
  @Column('integer') markedAt: number;
  /** counts the changes that the sidecars do not have yet; 0 when they are up to date */
  @Column('integer') sidecarDue: number;
  /** what was last written to the sidecars; the base of a merge */
  @Column('simple-json', { nullable: true }) sidecarBase: SidecarModel | null;
  /** what is said about it in words; null: nothing yet */
  @Column('simple-json', { nullable: true }) description: Description | null;
}
