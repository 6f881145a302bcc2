import { ArkivError, type MoveFrame, type MoveInto, type MovePlan } from '@arkiv/core';
import type { Shoot } from '../shoots/shoot.entity';
import type { MoveKind } from './moveParams';

/** Frames that become a shoot of their own. */
export interface SplitOff {
  frameIds: string[];
  title: string;
  date?: string;
}

export interface MoveRequest {
  kind: MoveKind;
  /** the shoot whose frames move; all of them go when two shoots are merged */
  shootId: string;
  /** merge, arrange: the shoot they go into */
  into?: string;
  /** split: the frames that leave */
  frameIds?: string[];
  /** split: the new shoot */
  title?: string;
  date?: string;
  client?: string;
  place?: string;
  /** split: further shoots that are made of it, in the same go */
  more?: SplitOff[];
  /** rename, arrange, takeIn: the pattern and where its numbers begin */
  pattern?: string;
  seqStart?: number;
  /** arrange: the pattern is above; or one name, the folder below the originals, the day it is due (YYYY-MM-DD) */
  name?: string;
  below?: string;
  due?: string;
  /** aside: not the rejects alone, but what is undecided too */
  undecided?: boolean;
  /** arrange: the frames stay, and copies of them come to lie there, as frames of their own */
  copies?: boolean;
  /** names follow the shoot they go into; otherwise they stay unless they are taken there */
  rename: boolean;
}

/** Where the files of a plan would come to. */
export const placesOf = ({ moves }: MovePlan): string[] =>
  moves.flatMap(({ files }) => files.map(({ to }) => to));

/** The frames that are meant: for a split those that are named, for a renaming those that have a name. */
export function chosenOf(
  all: readonly MoveFrame[],
  kind: MoveKind,
  frameIds: readonly string[] = [],
): MoveFrame[] {
  const named = new Set(frameIds);
  const frames = all.filter(
    ({ id }) =>
      kind === 'merge' || kind === 'takeIn' || (id !== null && (kind === 'rename' || named.has(id))),
  );
  if (frames.length === 0) throw new ArkivError('move.nothing', { reason: 'no frames are chosen' });
  return frames;
}

export function asInto({ title, date, client, place, pattern, plan: folders, nextSeq }: Shoot): MoveInto {
  return { title, date, client, place, pattern, folders, nextSeq };
}
