/** What is read again of a drive on one day. */
export interface DaysReading {
  /** copies whose last proof is older than this, in milliseconds since 1970, or that have none */
  before: number;
  /** about so many bytes of them, the oldest proofs first; at least one file */
  bytes: number;
}

const DAY = 24 * 60 * 60 * 1000;

/**
 * How much of a drive is read again today, so that every copy on it is read within so many days, a little each day. Reading begins when
 * a proof is half as old as that, and each day takes as much as has the whole drive done in the other half: a drive that was filled on
 * one day is read over months, and one that is away for weeks still comes round.
 */
export function daysReading({ bytes, days, now }: { bytes: number; days: number; now: number }): DaysReading {
  const half = days / 2;
  return { before: now - half * DAY, bytes: Math.ceil(bytes / half) };
}

/** Files of a day's reading, from those that are due in the order of their proofs: at least one, and none beyond the bytes. */
export function ofToday<F extends { size: number }>(
  due: readonly F[],
  { bytes }: Pick<DaysReading, 'bytes'>,
): F[] {
  let left = bytes;
  const today: F[] = [];
  for (const file of due) {
    if (today.length > 0 && file.size > left) break;
    today.push(file);
    left -= file.size;
  }
  return today;
}

/** Files of a drive that could not be read, or were not what was written, after which it is named: one may be chance, two are its nature. */
export const FAILS_TWICE = 2;
