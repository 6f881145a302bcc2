import { Column, Entity, Index, PrimaryColumn } from 'typeorm';
import type { Detail, FrameKind, Label, RawFact, Verdict } from '@arkiv/core';

/**
 * A frame is `arriving` until one of its pictures is proven on a volume; only then is it `here` and shown. `binned`: its
 * files lie in the bin. `forgotten`: the archive keeps no more than that it was here once.
 */
export type FrameState = 'arriving' | 'here' | 'binned' | 'forgotten';

/** One press of the shutter: what filters can ask of it, and where its files lie. Written by the frame store alone. */
@Entity('frame')
@Index(['shootId', 'instant'])
export class Frame {
  @PrimaryColumn('text') id: string;
  /** an integer for indexes and columns; the database gives it, in the order in which frames come */
  @Column({ type: 'integer', insert: false, update: false }) key: number;
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
  /** id of the file that shows it; null: none can */
  @Column('text', { nullable: true }) shownBy: string | null;
  /** somebody chose the file that shows it: the rule is not asked any more */
  @Column('boolean') chosen: boolean;
  @Column('text') verdict: Verdict;
  @Column('integer') stars: number;
  @Column('text', { nullable: true }) label: Label | null;
  /** words to whoever edits it; null: none */
  @Column('text', { nullable: true }) note: string | null;
  /** id of the stage at which it stands; null: nothing was said */
  @Column('text', { nullable: true }) stage: string | null;
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
  @Column('real', { nullable: true }) exposure: number | null;
  @Column('integer', { nullable: true }) iso: number | null;
  @Column('real', { nullable: true }) focalLength: number | null;
  /** EV beside what the camera metered */
  @Column('real', { nullable: true }) exposureBias: number | null;
  /** what was focused on, in dioptres; 0: infinity */
  @Column('real', { nullable: true }) focus: number | null;
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
  /** how much of its file its picture shows, seen when it was decoded; null: not yet */
  @Column('text', { nullable: true }) detail: Detail | null;
  /** of its picture, see `sharpnessOf`; null: not measured yet, or nothing to tell by */
  @Column('real', { nullable: true }) sharpness: number | null;
  /** of its picture, see `measuresText`; null: not measured yet */
  @Column('text', { nullable: true }) measures: string | null;
  /** what is said of its picture by itself, see `adviceOf`, joined by `+` */
  @Column('text') advice: string;
  /** `voice note` where a file of it is one */
  @Column('text', { nullable: true }) voice: string | null;
  /** `edited` where an edit of it came back */
  @Column('text', { nullable: true }) edited: string | null;
  /** what was said of its place among takes, see `correctionOf`; null: nothing */
  @Column('text', { nullable: true }) take: string | null;
  /** how much it looks like the frame of its body before it, see `closeness`; null: not compared, or nothing to compare */
  @Column('real', { nullable: true }) close: number | null;
  /** where the middle of that frame lies in it, as shares of width and height beside the middle */
  @Column('real', { nullable: true }) dx: number | null;
  @Column('real', { nullable: true }) dy: number | null;
  /** which two pictures were compared, and by which measure; null: none yet */
  @Column('text', { nullable: true }) closeTo: string | null;
  /** ids of the piles that it is in, in order, joined by `+` */
  @Column('text') piles: string;
  /** the albums that it is in and where it stands there, see `albumsIn` */
  @Column('text') albums: string;
  /** what is said of it in words; null: nothing */
  @Column('text', { nullable: true }) caption: string | null;
  /** in the order given, joined by line ends, see `keywordsIn` */
  @Column('text') keywords: string;
  /** who is shown, joined in the same way */
  @Column('text') persons: string;
  /** what else is said of it, see `textsIn` */
  @Column('text') texts: string;
  /** how it is finished, see `finishOf`; empty: as it is */
  @Column('text', { default: '' }) finish: string;
  /** time of the last mark, for merging with a sidecar that changed outside */
  @Column('integer') markedAt: number;
  /** id of the frame that it is a copy of; null: it came from a camera */
  @Column('text', { nullable: true }) derivedFrom: string | null;
  /** counts the changes that the sidecars do not have yet; 0 when they are up to date */
  @Column('integer') sidecarDue: number;
}
