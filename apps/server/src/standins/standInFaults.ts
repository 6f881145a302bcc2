import { Injectable } from '@nestjs/common';

export const DRIVE_STATES = ['well', 'full', 'unplugged', 'read-only'] as const;
export type DriveState = (typeof DRIVE_STATES)[number];

export interface SlotFaults {
  /** bytes a second that the reader gives at most; null: as fast as it can */
  bytesPerSecond: number | null;
  /** after so many more bytes the card is pulled out; null: it stays */
  pullAfterBytes: number | null;
  /** files (relative to the card) of which the second half cannot be read */
  unreadable: readonly string[];
}

export interface DriveFaults {
  state: DriveState;
  /** while well: so many more bytes can be written, then the drive is full; null: as many as there is room */
  bytesUntilFull: number | null;
}

export const SLOT_WELL: SlotFaults = { bytesPerSecond: null, pullAfterBytes: null, unreadable: [] };
export const DRIVE_WELL: DriveFaults = { state: 'well', bytesUntilFull: null };

export interface Slot {
  id: string;
  name: string;
  root: string;
  faults: SlotFaults;
  /** counts insertions: what was opened before the last one belongs to a card that is gone */
  inserted: number;
  /** when the reader can give its next byte, milliseconds since 1970 */
  freeAt: number;
}

export interface Drive {
  id: string;
  root: string;
  faults: DriveFaults;
}

const isBelow = (root: string, path: string): boolean => path === root || path.startsWith(`${root}/`);

/** What is wrong with the simulated devices at the moment. Kept in memory: a restart makes all well again. */
@Injectable()
export class StandInFaults {
  readonly slots = new Map<string, Slot>();
  readonly drives = new Map<string, Drive>();
  /** pulls the card out of a slot, as a hand would */
  pull: (slot: string) => Promise<void> = () => Promise.resolve();

  slotAt(path: string): Slot | null {
    return [...this.slots.values()].find((slot) => isBelow(slot.root, path)) ?? null;
  }

  driveAt(path: string): Drive | null {
    return [...this.drives.values()].find((drive) => isBelow(drive.root, path)) ?? null;
  }
}
