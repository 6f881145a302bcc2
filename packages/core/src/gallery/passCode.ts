/** Letters and digits that no hand and no telephone takes for another: no 0 and O, no 1, I and L, no U and V, no 5 and S, no 2 and Z. */
const SIGNS = 'ABCDEFGHJKMNPQRTWXY346789';
/** 25 signs at eight places: 1.5 × 10¹¹ codes, where a guess in some ten seconds is all that is allowed. */
const LENGTH = 8;
/** Characters that are looked at of what somebody typed. */
export const LONGEST_CODE = 40;

/**
 * A pass code for people: eight signs in two groups.
 *
 * @param bytes evenly random, at least 64 (those that would favour some signs are passed over); throws where they do not suffice
 */
export function passCode(bytes: Uint8Array): string {
  const fair = Math.floor(256 / SIGNS.length) * SIGNS.length;
  const signs = [...bytes].filter((byte) => byte < fair).map((byte) => SIGNS[byte % SIGNS.length]!);
  if (signs.length < LENGTH) throw new Error('too few random bytes for a pass code');
  const code = signs.slice(0, LENGTH).join('');
  return `${code.slice(0, LENGTH / 2)}-${code.slice(LENGTH / 2)}`;
}

/** A code as it is compared: however it was typed, with or without what stands between its signs. */
export const comparedCode = (typed: string): string =>
  typed
    .normalize('NFKC')
    .toUpperCase()
    .replace(/[^\p{L}\p{N}]/gu, '');
