import type { Description } from '../description/description';
import { exifTexts, withExifTexts, type ExifTexts } from './exifTexts';
import { iimTexts, readIim, writeIim, type IimTexts } from './iim';
import { bodyOf, headOf, isOf, jpegHead, segmentOf, type JpegHead, type Segment } from './jpegHead';
import { isMultiPicture, movedIndex } from './multiPicture';
import { DIGEST, isResources, readResources, resourceSegments, TEXTS, UNNAMED } from './resources';

const EXIF = 'Exif\0\0';
const XMP = 'http://ns.adobe.com/xap/1.0/\0';
const JFIF = 'JFIF\0';

/** What a JPEG says inside of itself. Null: it has no such part. */
export interface Inside {
  /** the text of its XMP packet (ISO 16684-3, 1.1.3) */
  xmp: string | null;
  /** texts of the old model */
  iim: IimTexts | null;
  exif: ExifTexts | null;
}

/** What is said inside a JPEG; `head`: its beginning, with the whole of what stands before its picture. Null: it is no JPEG. */
export function readInside(head: Uint8Array): Inside | null {
  const found = jpegHead(head);
  return found === null ? null : insideOf(found);
}

function insideOf({ segments }: JpegHead): Inside {
  const bodyAfter = (name: string): Uint8Array | null => {
    const segment = segments.find((one) => isOf(one, 1, name));
    return segment ? bodyOf(segment).subarray(name.length) : null;
  };
  const [xmp, exif] = [bodyAfter(XMP), bodyAfter(EXIF)];
  const texts = (readResources(segments) ?? []).find(({ id }) => id === TEXTS);
  const sets = texts ? readIim(texts.content) : null;
  return {
    xmp: xmp === null ? null : new TextDecoder().decode(xmp),
    iim: sets === null ? null : iimTexts(sets),
    exif: exif === null ? null : exifTexts(exif),
  };
}

export type NewHead =
  | {
      ok: true;
      head: Uint8Array;
      /** bytes of the old head, which the new one stands for */ replaces: number;
    }
  /** why it stays as it is, to be read after the file's name */
  | { ok: false; reason: string };

/**
 * A JPEG's head in which is said what is wanted: `xmp`, the text of a packet, and the same in the old model and in Exif (MWG 2.0, 5).
 * All other segments, and all else in these, stay byte for byte. `digest`: MD5. What stands behind the head belongs behind the new
 * one as it is.
 */
export function withInside(
  bytes: Uint8Array,
  xmp: string,
  said: Description,
  digest: (bytes: Uint8Array) => Uint8Array,
): NewHead {
  const found = jpegHead(bytes);
  if (!found) return { ok: false, reason: 'it is not built as a JPEG is' };
  const { segments, end } = found;
  const packet = segmentOf(1, XMP, new TextEncoder().encode(xmp));
  if (!packet) return { ok: false, reason: 'what is said of it is longer than a JPEG can hold' };
  const resources = readResources(segments);
  if (!resources) return { ok: false, reason: 'its APP13 segments cannot be read' };
  const there = resources.find(({ id }) => id === TEXTS);
  const sets = there ? readIim(there.content) : [];
  if (!sets) return { ok: false, reason: 'its IPTC texts cannot be read' };
  const iim = writeIim(said, sets);
  const app13 = resourceSegments([
    ...resources.filter(({ id }) => id !== TEXTS && id !== DIGEST),
    { id: TEXTS, name: there?.name ?? UNNAMED, content: iim },
    { id: DIGEST, name: UNNAMED, content: digest(iim) },
  ]);
  const old = segments.find((one) => isOf(one, 1, EXIF));
  const exif = exifWith(old, said);
  const isOurs = (one: Segment) => one === old || isOf(one, 1, XMP) || isResources(one);
  const others = segments.filter((one) => !isOurs(one));
  // Where there is one, JFIF's own stands first (JFIF 1.02); Exif's comes next, as its readers look no further.
  const [first, rest] = others[0] && isOf(others[0], 0, JFIF) ? [[others[0]], others.slice(1)] : [[], others];
  const ours = [...(exif ? [exif] : []), packet, ...app13];
  const placed = indexed(segments, [...first, ...ours, ...rest], isOurs);
  if (!placed) return { ok: false, reason: 'its index of several pictures cannot be read' };
  return { ok: true, head: headOf(placed), replaces: end };
}

/** Exif's segment with the texts in it; as it was where it would not fit, or cannot be read: what the camera wrote comes first. */
function exifWith(old: Segment | undefined, said: ExifTexts): Segment | undefined {
  const written = withExifTexts(old ? bodyOf(old).subarray(EXIF.length) : null, said);
  return (written && segmentOf(1, EXIF, written)) ?? old;
}

/** New segments, with the index of several pictures, if there is one, telling where these are by now. */
function indexed(
  before: readonly Segment[],
  after: Segment[],
  moves: (segment: Segment) => boolean,
): Segment[] | null {
  const at = before.findIndex(isMultiPicture);
  if (at < 0) return after;
  const sizeOf = (some: readonly Segment[]) => some.reduce((sum, { bytes }) => sum + bytes.length, 0);
  const grown = sizeOf(after) - sizeOf(before);
  // What is written stands before the index; what stood behind it and is written anew is gone from there.
  const behind = -sizeOf(before.slice(at + 1).filter(moves));
  const index = movedIndex(before[at]!, grown, behind);
  return index && after.map((one) => (one === before[at] ? index : one));
}
