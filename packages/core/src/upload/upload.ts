import { kindOf } from '../card/dcf';
import { isGalleryOpen } from '../gallery/said';

/** UTF-8 bytes of a name: file systems take 255, and a number may come behind it where another file has it already. */
const LONGEST_NAME = 240;
/** UTF-8 bytes of a whole path: as deep as cards and folders of a shoot go, several times over. */
const LONGEST_PATH = 1000;

/** A link by which somebody outside sends pictures. */
export interface UploadLinkRules {
  /** bytes that may come by it */
  most: number;
  /** bytes that have come and were proven */
  came: number;
  /** until when it is open, milliseconds since 1970 UTC; null: until it is taken back */
  until: number | null;
  /** when it was taken back; null: it was not */
  revokedAt: number | null;
}

/** Bytes that may still come. `coming`: of files that are on their way, whole. Never below none. */
export const leftOfLink = ({ most, came }: Pick<UploadLinkRules, 'most' | 'came'>, coming: number): number =>
  Math.max(0, most - came - coming);

/** Whether anything may come by it. `now`: milliseconds since 1970 UTC. */
export const isLinkOpen = (
  { until, revokedAt }: Pick<UploadLinkRules, 'until' | 'revokedAt'>,
  now: number,
): boolean => isGalleryOpen({ closedAt: revokedAt, until }, now);

/** What is in the way of a file's name from another computer; null: nothing is. Ways out of its folder are looked at where it is written. */
export function sentNameTrouble(path: string): 'long' | 'signs' | null {
  const size = (text: string) => new TextEncoder().encode(text).length;
  if (size(path) > LONGEST_PATH || path.split('/').some((part) => size(part) > LONGEST_NAME)) return 'long';
  // Signs that no keyboard makes turn a list, a log or a terminal around.
  return /[\p{Cc}\p{Zl}\p{Zp}]/u.test(path) ? 'signs' : null;
}

/** Whether somebody outside may send a file of this name: pictures, clips, and what belongs to them. */
export const isSendable = (path: string): boolean => kindOf(path).role !== 'other';
