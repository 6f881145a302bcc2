import { bodyOf, isOf, joined, roomFor, segmentOf, type Segment } from './jpegHead';

/** Blocks of a JPEG's APP13 segments, of which one holds the texts of the old model: `8BIM`, number, name, length, content. */
export interface Resource {
  id: number;
  /** its name with the length before it, and filled up to an even length, as it stands there */
  name: Uint8Array;
  content: Uint8Array;
}

export const TEXTS = 0x0404;
/** MD5 of {@link TEXTS}: by it readers know whether XMP and the old texts were written together (MWG 2.0, 3.2). */
export const DIGEST = 0x0425;
const APP = 13;
const NAME = 'Photoshop 3.0\0';
const SIGNATURE = [0x38, 0x42, 0x49, 0x4d];

export const isResources = (segment: Segment): boolean => isOf(segment, APP, NAME);

/** The resources of all such segments, which are one stream; null where they cannot be read. */
export function readResources(segments: readonly Segment[]): Resource[] | null {
  const bytes = joined(segments.filter(isResources).map((one) => bodyOf(one).subarray(NAME.length)));
  const view = new DataView(bytes.buffer);
  const found: Resource[] = [];
  for (let at = 0; at < bytes.length;) {
    if (!SIGNATURE.every((byte, i) => bytes[at + i] === byte) || at + 8 > bytes.length) return null;
    const id = view.getUint16(at + 4);
    const named = 1 + bytes[at + 6]!;
    const name = bytes.subarray(at + 6, at + 6 + named + (named % 2));
    const begin = at + 6 + name.length + 4;
    if (begin > bytes.length) return null;
    const length = view.getUint32(begin - 4);
    if (begin + length > bytes.length) return null;
    found.push({ id, name, content: bytes.subarray(begin, begin + length) });
    at = begin + length + (length % 2);
  }
  return found;
}

/** The segments that hold these resources. */
export function resourceSegments(resources: readonly Resource[]): Segment[] {
  const stream = joined(
    resources.flatMap(({ id, name, content }) => {
      const length = new Uint8Array(4);
      new DataView(length.buffer).setUint32(0, content.length);
      const parts = [Uint8Array.of(...SIGNATURE, id >> 8, id & 255), name, length, content];
      return [...parts, new Uint8Array(content.length % 2)];
    }),
  );
  const room = roomFor(NAME);
  const segments: Segment[] = [];
  for (let at = 0; at < stream.length; at += room)
    segments.push(segmentOf(APP, NAME, stream.subarray(at, at + room))!);
  return segments;
}

export const UNNAMED: Uint8Array = new Uint8Array(2);
