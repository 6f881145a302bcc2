import type { FolderPlan, PlannedMove } from '@arkiv/core';
import type { Shoot } from '../shoots/shoot.entity';

/**
 * `aside`: rejects to their own folder, beside the originals; `back`: from there to the originals; `arrange`: some frames of a shoot
 * under other names, or in another folder of it; `takeIn`: a shoot of an adopted folder into dated folders.
 */
export type MoveKind = 'split' | 'merge' | 'rename' | 'aside' | 'back' | 'arrange' | 'takeIn';

/** Whether drives that are away may follow when they return: names and shoots stay as they are. */
export const mayFollow = (kind: MoveKind): boolean => kind === 'aside' || kind === 'back';

/** What a shoot's next names are made of. */
export interface Naming {
  pattern: string;
  nextSeq: number;
}

/** What a shoot was while its pictures lay in an adopted folder. */
export type AsAdopted = Pick<Shoot, 'keptIn' | 'sidecars' | 'plan'>;

export interface MoveParams {
  kind: MoveKind;
  /** the shoot that frames leave; for a renaming the same as `into` */
  from: string;
  into: string;
  /** further shoots that were made of it in the same go, or that frames come back from */
  more?: readonly string[];
  /** the shoot they go into was made for them */
  made: boolean;
  /** the job that this one takes back */
  undoes: string | null;
  /** the shoot whose names it changes, where that one was there before: how they were made, and how they are now */
  naming: { shootId: string; before: Naming; after: Naming } | null;
  /** takeIn: what the shoot is while it is adopted, how it is laid out as the archive's own, and whether it is put back */
  adopted?: { as: AsAdopted; own: FolderPlan; back: boolean };
}

/** All shoots whose frames move. */
export const shootsOf = ({ from, into, more = [] }: MoveParams): string[] => [
  ...new Set([from, into, ...more]),
];

/** One frame on its way, with all its files. */
export interface MoveItem extends PlannedMove {
  /** for the report: the frame's place before */
  path: string;
  fromShoot: string;
  toShoot: string;
  /** takeIn: no sidecar lay beside it */
  isBare?: boolean;
}
