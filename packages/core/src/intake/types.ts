import type { AssetRole, CardFrameFile } from '../card/types';
import type { FolderOwner } from '../folders/ownFolder';
import type { FolderPlan, SequenceScope } from '../folders/plan';
import type { FrameFacts } from '../metadata/facts';

/** A frame on a card, with what its files say about it. */
export interface PlanFrame {
  key: string;
  base: string;
  files: CardFrameFile[];
  facts: FrameFacts;
}

/** Everything the plan depends on; the same input gives the same plan, in the browser and on the server. */
export interface IntakeInput {
  frames: PlanFrame[];
  extras: CardFrameFile[];
  shoot: { title: string; date: string; client: string; place: string };
  creator: string;
  card: string;
  pattern: string;
  folders: FolderPlan;
  /** first number of `{number}` */
  seqStart: number;
  /** whether numbers run through the shoot or begin restart daily; missing: through the shoot */
  seqBy?: SequenceScope;
  /** where days that have frames already carry on, by day `YYYY-MM-DD`; used by day only */
  seqOfDays?: Readonly<Record<string, number>>;
  /** keys of frames that are probably archived: their numbers come last, so that none is missing if they are */
  known?: readonly string[];
  /** minutes east of UTC for cameras that wrote none */
  zoneMinutes: number;
  /** 0…23 */
  dayStartHour: number;
  /** whose folders there are; missing: no other shoot's */
  owner?: FolderOwner;
}

/** One file's way: `from` on the card, `to` below each target volume. */
export interface PlanItem {
  from: string;
  to: string;
  role: AssetRole;
  format: string;
  raw: boolean;
  /** bytes */
  size: number;
  /** null for files that belong to no frame */
  frameKey: string | null;
}

export interface PlannedFrame {
  key: string;
  /** new base name */
  name: string;
  /** the shoot's folder this frame goes to */
  folder: string;
  /** the folder its originals lie in */
  place: string;
  seq: number;
}

export type PlanProblemKind =
  | 'pattern'
  | 'collision'
  | 'exists'
  | 'same-shoot'
  | 'illegal-name'
  | 'too-long'
  | 'no-title'
  | 'bad-title'
  | 'nothing'
  | 'unsorted';

export interface PlanProblem {
  kind: PlanProblemKind;
  /** names the file, the cause and the next step */
  message: string;
  from?: string;
  to?: string;
}

export interface IntakePlan {
  items: PlanItem[];
  frames: PlannedFrame[];
  folders: string[];
  problems: PlanProblem[];
  /** what does not stand in the way and should be known before */
  warnings: PlanProblem[];
  /** bytes of all items */
  bytes: number;
}
