/** What an intake's job keeps; everything else of it stands in the ledger. */
export interface IntakeParams {
  readerId: string;
  card: string;
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
