import type { AssetRole, FileProgress } from '@arkiv/core';

/** What an intake was asked to do; kept with its job, so that a restart knows. */
export interface IntakeParams {
  readerId: string;
  card: string;
  fingerprint: string;
  shootId: string;
  /** what one card was taken in as, in one go: the same for each of its shoots; missing before it was kept */
  arrival?: string;
  /** the shoot was there before; left out by intakes that always made their own */
  intoExisting?: boolean;
  folders: string[];
  /** files of the frames that were left out by choice; missing where that could not be chosen yet */
  leftOut?: { path: string; size: number }[];
  /** volumes that get a copy, working drive first */
  targets: string[];
}

/** One file of a card on its way. */
export interface IntakeItem {
  from: string;
  to: string;
  role: AssetRole;
  format: string;
  raw: boolean;
  frameId: string | null;
  mtimeMillis: number;
  /** probably archived: it is compared first, and copied only if its content is new */
  known?: boolean;
  /** the frame's number */
  seq?: number;
  progress: FileProgress;
}

export interface IntakeResult {
  files: number;
  copied: number;
  alreadyHere: number;
  partly: number;
  failed: number;
  bytes: number;
  /** receipts below each volume */
  receipts: string[];
  /** what could not be written down, in words; null when all was */
  reason: string | null;
}
