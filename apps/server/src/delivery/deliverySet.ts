import { readSpec, withFolders, type OutputSpec } from '@arkiv/core';
import type { Delivery, DeliveryFile, SetAlong } from '../ledger/delivery.entity';

export interface DeliveryRequest {
  name: string;
  volumeId: string;
  /** which of the keepers: a line of words and facts; empty: all */
  line: string;
  /** all are made at once, from one reading of each picture */
  specs: OutputSpec[];
  along: SetAlong;
}

/** A file that a set will have. */
export type PlannedFile = Pick<
  DeliveryFile,
  'item' | 'number' | 'spec' | 'from' | 'to' | 'frameId' | 'picture'
>;

/** By which specs a delivery is made; an earlier version kept one, and knew less. */
export const specsOf = ({ spec }: Pick<Delivery, 'spec'>): OutputSpec[] =>
  Array.isArray(spec) ? spec.map(withFolders) : [readSpec(spec)];

/** The folder of a set that holds what its client gets: in a bag, the bag's payload. */
export const payloadOf = (folder: string, { bag }: SetAlong, payload: string): string =>
  bag ? `${folder}/${payload}` : folder;

/** Whether a file of it lies there: the one made, or one of before that could not be made anew. */
export const liesThere = ({ fate, sha256 }: DeliveryFile): boolean => fate !== 'todo' && sha256 !== null;
