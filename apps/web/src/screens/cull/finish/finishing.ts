import type { Finish, FinishField, FinishValue } from '@arkiv/core';
import type { LoadedFrame } from '../../../data/frames';

/** What is being changed of how frames look: shown at once, given when the hand rests or lets go. */
export interface Finishing {
  /** the current frame's values, with what is tried at the moment; null: it cannot be finished */
  values: Finish | null;
  /** the values of any frame as they are to be seen */
  of: (frame: LoadedFrame) => string;
  /** what changes go to */
  targets: readonly LoadedFrame[];
  /** side by side, changes go to all that stand there */
  all: boolean;
  setAll: (all: boolean) => void;
  /** tries values; they are given by themselves after a rest */
  attempt: (change: Partial<Record<FinishField, FinishValue | null>>) => void;
  /** gives what is tried now */
  settle: () => void;
}
