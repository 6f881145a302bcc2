import { DCF_OPTIONAL, iccProfile } from './profile';

const PROFILE = 'ICC_PROFILE\0';
const EXIF = 'Exif\0\0';
/** Exif's pointers, and the index of its interoperability (CIPA DC-008, 4.6.3 and 4.6.8). */
const EXIF_IFD = 0x8769;
const INTEROP_IFD = 0xa005;
const INTEROP_INDEX = 0x0001;
/** Entries of one directory: a camera writes a hundred, and a made file could claim any number. */
const MOST_ENTRIES = 1000;

/**
 * A JPEG with the profile that it means and does not hold: the camera says by Exif that its colours are those of DCF's
 * optional space, and a decoder that is not told takes them for sRGB, which is paler. The profile is put in as JPEG has it
 * (ICC.1:2010, annex B.4); no pixel is coded anew. Any other file, one with a profile of its own too: null.
 */
export function withMeantProfile(jpeg: Uint8Array): Uint8Array | null {
  const found = read(jpeg);
  return found?.optional ? withProfile(jpeg) : null;
}

/** With DCF's optional profile put in; null: it has one of its own, or is no JPEG. */
function withProfile(jpeg: Uint8Array): Uint8Array | null {
  const found = read(jpeg);
  if (!found || found.hasProfile) return null;
  const profile = iccProfile(DCF_OPTIONAL);
  const body = new Uint8Array(PROFILE.length + 2 + profile.length);
  [...PROFILE].forEach((letter, i) => (body[i] = letter.charCodeAt(0)));
  // Piece one of one.
  body.set([1, 1], PROFILE.length);
  body.set(profile, PROFILE.length + 2);
  const length = body.length + 2;
  const segment = new Uint8Array([0xff, 0xe2, length >> 8, length & 255, ...body]);
  const made = new Uint8Array(jpeg.length + segment.length);
  made.set(jpeg.subarray(0, found.after));
  made.set(segment, found.after);
  made.set(jpeg.subarray(found.after), found.after + segment.length);
  return made;
}

/** A picture out of a file whose head says that its colours are optional ones: of what is inside nothing says so. */
export const withProfileOf = (head: Uint8Array, inside: Uint8Array): Uint8Array =>
  (meansOptionalColour(head) && withProfile(inside)) || inside;

/**
 * Whether a file's head says that colours are the optional ones and gives no profile: of a JPEG, or of a raw that is built as
 * a TIFF (TIFF 6.0, and makers' own numbers in its place). It need not be the whole file.
 */
export function meansOptionalColour(head: Uint8Array): boolean {
  if (isTiff(head)) return isOptional(head);
  const found = read(head);
  return found !== null && found.optional && !found.hasProfile;
}

/** What a JPEG's head says of its colours; `after`: where another segment may stand. Null: it is no JPEG. */
function read(jpeg: Uint8Array): { hasProfile: boolean; optional: boolean; after: number } | null {
  if (jpeg[0] !== 0xff || jpeg[1] !== 0xd8) return null;
  const view = new DataView(jpeg.buffer, jpeg.byteOffset, jpeg.byteLength);
  let [hasProfile, optional, after] = [false, false, 2];
  for (let at = 2; at + 4 <= jpeg.length && jpeg[at] === 0xff;) {
    const marker = jpeg[at + 1]!;
    // Segments that a decoder reads before the picture; the picture itself ends the search.
    if (marker === 0xff) {
      at += 1;
      continue;
    }
    if (marker === 0xda || marker === 0xd9) break;
    const length = view.getUint16(at + 2);
    const [start, end] = [at + 4, at + 2 + length];
    if (length < 2) break;
    if (marker === 0xe2 && startsWith(jpeg, start, PROFILE)) hasProfile = true;
    if (marker === 0xe1 && startsWith(jpeg, start, EXIF)) {
      optional = isOptional(jpeg.subarray(start + EXIF.length, end));
      after = end;
    }
    if (marker === 0xe0) after = Math.max(after, end);
    at = end;
  }
  return { hasProfile, optional, after: Math.min(after, jpeg.length) };
}

/** Its two letters say which way numbers are written. */
const isTiff = (head: Uint8Array): boolean => startsWith(head, 0, 'II') || startsWith(head, 0, 'MM');

const startsWith = (bytes: Uint8Array, at: number, words: string): boolean =>
  [...words].every((letter, i) => bytes[at + i] === letter.charCodeAt(0));

/** Whether Exif's interoperability index is `R03`. A directory that leads nowhere says nothing. */
function isOptional(tiff: Uint8Array): boolean {
  if (tiff.length < 8) return false;
  const view = new DataView(tiff.buffer, tiff.byteOffset, tiff.byteLength);
  const little = view.getUint16(0) === 0x4949;
  const valueOf = (directory: number, tag: number): number | null => {
    if (directory + 2 > tiff.length) return null;
    const count = Math.min(view.getUint16(directory, little), MOST_ENTRIES);
    for (let i = 0; i < count; i++) {
      const entry = directory + 2 + i * 12;
      if (entry + 12 > tiff.length) return null;
      if (view.getUint16(entry, little) === tag) return entry + 8;
    }
    return null;
  };
  const pointer = (directory: number | null, tag: number): number | null => {
    const at = directory === null ? null : valueOf(directory, tag);
    return at === null ? null : view.getUint32(at, little);
  };
  const interop = pointer(pointer(view.getUint32(4, little), EXIF_IFD), INTEROP_IFD);
  const at = interop === null ? null : valueOf(interop, INTEROP_INDEX);
  return at !== null && startsWith(tiff, at, 'R03');
}
