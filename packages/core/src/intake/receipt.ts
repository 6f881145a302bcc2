import { manifestText, type ManifestLine } from '../delivery/manifest';
import type { Fate, FileProgress } from './copyState';
import { fateOf } from './copyState';

/** One file of a card in the receipt. */
export interface ReceiptFile {
  from: string;
  /** below the volume */
  to: string;
  size: number;
  sha256: string | null;
  fate: Fate;
  reason: string | null;
  /** bytes that could not be read, from … up to, not including, to */
  unreadable?: readonly { from: number; to: number }[];
  copies: { volume: string; verifiedAt: string; pastCache: boolean }[];
}

/** The proof an intake leaves; written as JSON beside the text that `sha256sum -c` accepts. */
export interface Receipt {
  schema: 1;
  intake: string;
  shoot: { id: string; title: string };
  card: { name: string; fingerprint: string };
  startedAt: string;
  finishedAt: string;
  volumes: { id: string; name: string; device: string }[];
  files: ReceiptFile[];
}

export interface ReceiptSource {
  from: string;
  to: string;
  size: number;
  progress: FileProgress;
}

/** ISO 8601 in UTC, from milliseconds since 1970. */
export function isoTime(at: number): string {
  return new Date(at).toISOString();
}

export function receiptFile(source: ReceiptSource): ReceiptFile {
  const { progress } = source;
  const targets = Object.entries(progress.targets);
  const failed = targets.flatMap(([, t]) => (t.reason ? [t.reason] : []));
  return {
    from: source.from,
    to: progress.alreadyHere ?? source.to,
    size: source.size,
    sha256: progress.sha256,
    fate: fateOf(progress),
    ...(progress.unreadable && progress.unreadable.length > 0 ? { unreadable: progress.unreadable } : {}),
    reason: progress.sourceError ?? (failed.length > 0 ? failed.join(' · ') : null),
    copies: targets
      .filter(([, t]) => t.state === 'verified')
      .map(([volume, t]) => ({
        volume,
        verifiedAt: isoTime(t.verifiedAt ?? 0),
        pastCache: t.pastCache ?? false,
      })),
  };
}

/** A file that stayed on the card by choice. */
export function leftOutFile({ path, size }: { path: string; size: number }): ReceiptFile {
  return { from: path, to: '', size, sha256: null, fate: 'left-out', reason: null, copies: [] };
}

/**
 * The receipt's lines for one volume and one shoot folder, with paths relative to that folder. Only copies that
 * were verified on this volume are listed: a line is a promise.
 */
export function receiptLines(files: readonly ReceiptFile[], volume: string, folder: string): ManifestLine[] {
  return files
    .filter((f) => f.sha256 !== null && f.fate !== 'already-here' && f.to.startsWith(`${folder}/`))
    .filter((f) => f.copies.some((c) => c.volume === volume))
    .map((f) => ({ sha256: f.sha256!, path: f.to.slice(folder.length + 1) }));
}

export function receiptText(files: readonly ReceiptFile[], volume: string, folder: string): string {
  return manifestText(receiptLines(files, volume, folder));
}

/** Whether a card may be cleared, and if not, what stands against it. */
export interface ClearanceReport {
  safe: boolean;
  required: number;
  proven: number;
  total: number;
  /** at most {@link MAX_REASONS}, each naming a file */
  reasons: string[];
}

/** A list longer than a screen helps nobody; the count says the rest. */
const MAX_REASONS = 50;

export interface CardFileProof {
  path: string;
  size: number;
  /** number of distinct devices that hold a verified copy of this very file; null: it was never taken in */
  devices: number | null;
  /** size and time on the card are still what they were when it was copied */
  unchanged: boolean;
}

/**
 * A card is safe to clear when each of its files, as they are on the card now, has the required number of
 * verified copies on distinct devices. Anything that was not copied blocks clearing, links included.
 */
export function clearanceOf(
  files: readonly CardFileProof[],
  required: number,
  notFollowed: readonly string[] = [],
): ClearanceReport {
  const reasons: string[] = notFollowed.map(
    (path) => `${path} is a link or no plain file and was not copied.`,
  );
  let proven = 0;
  for (const file of files) {
    if (file.devices === null) reasons.push(`${file.path} was not taken in.`);
    else if (!file.unchanged) reasons.push(`${file.path} changed on the card since it was copied.`);
    else if (file.devices < required) {
      reasons.push(`${file.path} has ${file.devices} of ${required} verified copies.`);
    } else proven += 1;
  }
  return {
    safe: reasons.length === 0 && files.length > 0,
    required,
    proven,
    total: files.length,
    reasons: reasons.slice(0, MAX_REASONS),
  };
}
