/** A segment of a JPEG's head, marker and length included. */
export interface Segment {
  /** second byte of its marker: 0xe1 is APP1 */
  marker: number;
  bytes: Uint8Array;
}

export interface JpegHead {
  /** in the file's order, without the start of the image */
  segments: Segment[];
  /** bytes from the start of the file to where the picture's own data begin: all behind it is never touched */
  end: number;
}

/** Bytes of a segment at most, marker left out (ISO/IEC 10918-1, B.1.1.4: its length has two bytes). */
const MOST = 0xffff;
const [START, SCAN, FIRST_APP] = [0xd8, 0xda, 0xe0];

/**
 * The segments of a JPEG up to its first scan (ISO/IEC 10918-1, annex B). Null where it is no JPEG, or its head is not whole within
 * `bytes`, or built as no camera builds it: such a file is left as it is.
 */
export function jpegHead(bytes: Uint8Array): JpegHead | null {
  if (bytes[0] !== 0xff || bytes[1] !== START) return null;
  const segments: Segment[] = [];
  let at = 2;
  for (;;) {
    if (bytes[at] !== 0xff || at + 4 > bytes.length) return null;
    const kind = bytes[at + 1]!;
    if (kind === SCAN) return { segments, end: at };
    // Markers without a length stand in scans only; what fills up before a marker nobody writes into a head.
    if (kind < 0xc0 || kind === 0xff || (kind >= 0xd0 && kind <= 0xd9)) return null;
    const to = at + 2 + ((bytes[at + 2]! << 8) | bytes[at + 3]!);
    if (to < at + 4 || to > bytes.length) return null;
    segments.push({ marker: kind, bytes: bytes.subarray(at, to) });
    at = to;
  }
}

/** What a segment holds behind its length. */
export const bodyOf = ({ bytes }: Segment): Uint8Array => bytes.subarray(4);

/** Whether a segment is the application's of that number, and says that it is this. */
export function isOf(segment: Segment, app: number, name: string): boolean {
  if (segment.marker !== FIRST_APP + app) return false;
  const body = bodyOf(segment);
  return body.length >= name.length && [...name].every((letter, i) => body[i] === letter.charCodeAt(0));
}

/** An application's segment; null where it is too long for one. */
export function segmentOf(app: number, name: string, content: Uint8Array): Segment | null {
  const length = 2 + name.length + content.length;
  if (length > MOST) return null;
  const bytes = new Uint8Array(length + 2);
  bytes.set([0xff, FIRST_APP + app, length >> 8, length & 255]);
  for (let i = 0; i < name.length; i++) bytes[4 + i] = name.charCodeAt(i);
  bytes.set(content, 4 + name.length);
  return { marker: FIRST_APP + app, bytes };
}

/** Bytes that a segment with this name can carry. */
export const roomFor = (name: string): number => MOST - 2 - name.length;

/** A head of these segments, with the start of the image. */
export const headOf = (segments: readonly Segment[]): Uint8Array =>
  joined([Uint8Array.of(0xff, START), ...segments.map(({ bytes }) => bytes)]);

export function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
