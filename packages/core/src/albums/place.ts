import { BASE_62_DIGITS, generateKeyBetween, generateNKeysBetween } from 'fractional-indexing';

/**
 * Places in an order that is made by hand: texts that sort as the order goes, by their characters' codes, and between any two of
 * which there are others. So one thing moves without any other changing, also from two windows at once.
 */
export type Place = string;

/** Characters of a place: each move between the same two neighbours adds less than one, so thousands of them fit. */
const LONGEST = 500;

export function isPlace(value: unknown): value is Place {
  if (typeof value !== 'string' || value.length > LONGEST || !/^[0-9A-Za-z]+$/.test(value)) return false;
  try {
    generateKeyBetween(value, null);
    return true;
  } catch {
    return false;
  }
}

/** So many places between two, in their order; null: no end. Both may be equal where two windows put something there at once. */
export function placesBetween(before: Place | null, after: Place | null, count: number): Place[] {
  if (before !== null && after !== null && before >= after) return generateNKeysBetween(before, null, count);
  return generateNKeysBetween(before, after, count);
}

/** Things by their places; what stands at the same place by its id. */
export const byPlace = <T extends { place: Place; id: string }>(a: T, b: T): number =>
  a.place < b.place ? -1 : a.place > b.place ? 1 : a.id < b.id ? -1 : a.id > b.id ? 1 : 0;

/** The first characters of places that are times: so many digits to the base 62 hold milliseconds until the year 2081. */
const TIMED = 'g';
const DIGITS = 7;

/**
 * Places behind all that were given before, for what is put in at a time (milliseconds since 1970 UTC): nobody has to know what
 * stands last, so that two windows, or one that is away from the server, can go on putting things in.
 */
export function placesAtEnd(at: number, count: number): Place[] {
  const timed = (millis: number): Place => {
    let digits = '';
    for (let rest = millis, i = 0; i < DIGITS; i++, rest = Math.floor(rest / BASE_62_DIGITS.length))
      digits = BASE_62_DIGITS[rest % BASE_62_DIGITS.length]! + digits;
    return TIMED + digits;
  };
  if (count === 0) return [];
  const first = timed(at);
  return [first, ...placesBetween(first, timed(at + 1), count - 1)];
}
