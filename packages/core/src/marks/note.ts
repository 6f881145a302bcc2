/** A note on a frame: words to whoever edits it. */
export interface Note {
  words: string;
  /** where in the upright picture it points to, as shares of its width and height; null: to all of it */
  spot: { x: number; y: number } | null;
}

/** Characters of a note: a paragraph. What is longer belongs into a letter. */
export const NOTE_MOST = 500;

/** Tenths of a per cent tell ten pixels of a long side of 10,000 apart: finer than a finger points. */
const SPOT = /^\[(\d{1,3}(?:\.\d)?) % (\d{1,3}(?:\.\d)?) %\] ?/;

/** How a note is kept, in words that a person reads too: `[41.2 % 30 %] dust on the lens`. Null: there is nothing to say. */
export function noteText({ words, spot }: Note): string | null {
  const said = words.replace(/\s+/g, ' ').trim();
  if (!spot) return said === '' ? null : said;
  const share = (value: number) => String(Math.round(Math.min(1, Math.max(0, value)) * 1000) / 10);
  return `[${share(spot.x)} % ${share(spot.y)} %] ${said}`.trim();
}

/** A note as it is kept, taken apart. */
export function noteOf(text: string): Note {
  const found = SPOT.exec(text);
  const [x, y] = [1, 2].map((i) => Math.round(Number(found?.[i]) * 10) / 1000) as [number, number];
  if (!found || x > 1 || y > 1) return { words: text, spot: null };
  return { words: text.slice(found[0].length), spot: { x, y } };
}

/** Whether a value can be kept as a note: one line of text that says something. */
export const isNote = (value: unknown): value is string =>
  typeof value === 'string' &&
  value.trim() === value &&
  value !== '' &&
  value.length <= NOTE_MOST &&
  // Controls and halves of characters have no place in XML, line ends none in a list.
  !/[\p{Cc}\p{Cs}\u2028\u2029\ufffe\uffff]/u.test(value);
