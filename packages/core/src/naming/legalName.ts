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

/** Text as part of a name: NFC, lower case, runs of blanks and illegal characters to one hyphen. May be empty. */
export function toNamePart(text: string): string {
  return text
    .normalize('NFC')
    .toLowerCase()
    .replace(EVERY_FORBIDDEN, '-')
    .replace(/[\s_-]+/g, '-')
    .replace(/^[-.]+|[-.]+$/g, '');
}

/** The key under which two names collide on a disk that folds case: NFC and full lower case of the upper case. */
export function collisionKey(path: string): string {
  return path.normalize('NFC').toUpperCase().toLowerCase();
}
