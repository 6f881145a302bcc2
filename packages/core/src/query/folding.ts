/** Marks that a word is read without: accents of Latin, Greek and Cyrillic letters, vowel points of Hebrew and Arabic. */
const ACCENTS = new RegExp(
  [
    ...['\\u0300-\\u036f', '\\u1ab0-\\u1aff', '\\u1dc0-\\u1dff', '\\u20d0-\\u20ff'],
    ...['\\u0591-\\u05bd', '\\u05bf', '\\u05c1', '\\u05c2', '\\u05c4', '\\u05c5', '\\u05c7'],
    ...['\\u0610-\\u061a', '\\u064b-\\u065f', '\\u0670'],
  ]
    .map((range) => `[${range}]`)
    .join('|'),
  'g',
);
/** Letters that no table of the standard takes apart, as they are written where a keyboard has none of them. */
const LETTERS: Readonly<Record<string, string>> = {
  ...{ ß: 'ss', æ: 'ae', œ: 'oe', ø: 'o', đ: 'd', ð: 'd', þ: 'th', ł: 'l', ħ: 'h', ı: 'i', ς: 'σ' },
};
const LETTER = new RegExp(`[${Object.keys(LETTERS).join('')}]`, 'g');
// eslint-disable-next-line no-control-regex
const ASCII = /^[\x00-\x7f]*$/;

/**
 * Text as it is compared: without case, accents and widths (Unicode's compatibility forms, UAX #15). Marks that make
 * another letter, as in Indic scripts and kana, stay.
 */
export function foldText(text: string): string {
  const lower = text.toLowerCase();
  if (ASCII.test(lower)) return lower;
  return lower
    .normalize('NFKD')
    .replace(ACCENTS, '')
    .normalize('NFC')
    .replace(LETTER, (letter) => LETTERS[letter]!);
}
