/** Why a name cannot be used on every system we serve. */
export type NameProblem = 'empty' | 'character' | 'reserved' | 'ending' | 'too-long';

/** Windows device names; illegal there with any extension (Microsoft, "Naming Files, Paths, and Namespaces"). */
const RESERVED = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i;
// The union of what Windows, macOS and Linux refuse in a name; control characters included.
// eslint-disable-next-line no-control-regex -- control characters are exactly what must be refused
const FORBIDDEN = /[<>:"/\\|?*\u0000-\u001f\u007f]/;
const EVERY_FORBIDDEN = new RegExp(FORBIDDEN.source, 'g');
/** 255 bytes is the limit of ext4 and most Linux file systems; NTFS, exFAT and APFS count 255 units, never fewer bytes. */
export const MAX_NAME_BYTES = 255;

/** Checks one path segment. Null when it is legal on Windows, macOS and Linux. */
export function nameProblem(name: string): NameProblem | null {
  if (name === '' || name === '.' || name === '..') return 'empty';
  if (FORBIDDEN.test(name)) return 'character';
  if (RESERVED.test(name)) return 'reserved';
  if (/[. ]$/.test(name)) return 'ending';
  // A UTF-16 unit takes three bytes of UTF-8 at most.
  if (name.length * 3 > MAX_NAME_BYTES && new TextEncoder().encode(name).length > MAX_NAME_BYTES)
    return 'too-long';
  return null;
}

/**
 * Bytes kept free behind a base name: the longest ending that Arkiv gives to one of its files, `_card.` and two
 * extensions, takes under 24, and a number that tells equal names apart eight.
 */
const ENDING_BYTES = 32;

/** A camera's own name, legal everywhere: what no system takes becomes `_`. Nothing is left out. */
export function legalOriginal(base: string): string {
  return base.normalize('NFC').replace(EVERY_FORBIDDEN, '_');
}

/** A name that no system keeps for devices. */
export function unreserved(base: string): string {
  return RESERVED.test(base) ? `_${base}` : base;
}

/** A camera's name with room for the endings of its files. */
export function shortBase(base: string): string {
  return shortened(base, MAX_NAME_BYTES - ENDING_BYTES);
}

/** At most so many bytes of UTF-8, cut between characters. */
export function shortened(text: string, bytes: number): string {
  if (text.length * 3 <= bytes) return text;
  const encoder = new TextEncoder();
  let left = bytes;
  let kept = '';
  for (const character of text) {
    left -= encoder.encode(character).length;
    if (left < 0) break;
    kept += character;
  }
  return kept;
}

/** Text as part of a name: NFC, lower case, runs of blanks and illegal characters to one hyphen. May be empty. */
export function toNamePart(text: string): string {
  return text
    .normalize('NFC')
    .toLowerCase()
    .replace(EVERY_FORBIDDEN, '-')
    .replace(/[\s_-]+/g, '-')
    .replace(/^[-.]+|[-.]+$/g, '');
}

// Marks that turn the direction of text, and characters that show nothing: legal, and able to deceive the eye.
// eslint-disable-next-line no-control-regex -- control characters are among them
const DECEIVING = /[\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff\u00ad\u0000-\u001f\u007f]/g;

/** Scripts that join letters, in which a joiner or non-joiner is spelling (Unicode Standard, chapters 9 and 12 to 14). */
const JOINED =
  /[\p{Script=Arabic}\p{Script=Syriac}\p{Script=Mongolian}\p{Script=Nko}\p{Script=Devanagari}\p{Script=Bengali}\p{Script=Gurmukhi}\p{Script=Gujarati}\p{Script=Oriya}\p{Script=Tamil}\p{Script=Telugu}\p{Script=Kannada}\p{Script=Malayalam}\p{Script=Sinhala}\p{Script=Khmer}\p{Script=Myanmar}]$/u;

/**
 * A name or path as it is shown: what cannot be seen is written as its code point, `‹202E›`, unless it is spelling. Each
 * stands in marks of its own, so that it reads from left to right among letters that do not.
 */
export function shownName(name: string): string {
  const seen = name.replace(DECEIVING, (character, at: number) => {
    const code = character.charCodeAt(0);
    if ((code === 0x200c || code === 0x200d) && JOINED.test(name.slice(0, at))) return character;
    return `\u2066‹${code.toString(16).toUpperCase().padStart(4, '0')}›\u2069`;
  });
  // A name that reads from right to left must not turn the words around it.
  return RIGHT_TO_LEFT.test(seen) ? `\u2068${seen}\u2069` : seen;
}

const RIGHT_TO_LEFT = /[\p{Script=Hebrew}\p{Script=Arabic}\p{Script=Syriac}\p{Script=Thaana}\p{Script=Nko}]/u;

/** The key under which two names collide on a disk that folds case: NFC and full lower case of the upper case. */
export function collisionKey(path: string): string {
  return path.normalize('NFC').toUpperCase().toLowerCase();
}
