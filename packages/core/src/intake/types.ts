import type { AssetRole, CardFrameFile } from '../card/types';
import type { FolderPlan } from '../folders/plan';
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
  /** first number of `{seq}` */
  seqStart: number;
  /** minutes east of UTC for cameras that wrote none */
  zoneMinutes: number;
  /** 0…23 */
  dayStartHour: number;
}

/** One file's way: `from` on the card, `to` below each target volume. */
export interface PlanItem {
  from: string;
  to: string;
  role: AssetRole;
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
  seq: number;
}

export type PlanProblemKind =
  'pattern' | 'collision' | 'exists' | 'illegal-name' | 'too-long' | 'no-title' | 'nothing';

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
  /** bytes of all items */
  bytes: number;
}
