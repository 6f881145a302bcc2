/** A whole JPEG stream inside another file. */
export interface EmbeddedJpeg {
  /** bytes from the start of the file */
  offset: number;
  /** bytes */
  length: number;
  /** pixels, where the directory says so */
  width: number | null;
  height: number | null;
}

/** Directories followed in one file. Raw files of known makers hold under ten; a cycle must end. */
const MAX_IFDS = 32;
/** Entries read in one directory. Real ones stay under 150. */
const MAX_ENTRIES = 512;

/**
 * The JPEG streams that a camera put into a TIFF-like raw file (TIFF 6.0, DNG 1.6: IFD chain and SubIFDs) or a
 * JPEG (Exif IFD1 thumbnail; Multi-Picture Format, CIPA DC-007). `head` is the file's beginning and must hold
 * the directories; the streams themselves may lie beyond it. Malformed structures give what was found so far.
 */
export function findEmbeddedJpegs(head: Uint8Array): EmbeddedJpeg[] {
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  const found: EmbeddedJpeg[] = [];
  try {
    if (isTiff(view, 0)) walkTiff(view, 0, found);
    else if (head[0] === 0xff && head[1] === 0xd8) walkJpeg(view, found);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
  }
  return found.filter((e) => e.length > 0 && e.offset > 0);
}

function isTiff(view: DataView, at: number): boolean {
  if (view.byteLength < at + 8) return false;
  const order = view.getUint16(at);
  return (
    (order === 0x4949 && view.getUint16(at + 2, true) === 42) ||
    (order === 0x4d4d && view.getUint16(at + 2) === 42)
  );
}

function walkJpeg(view: DataView, found: EmbeddedJpeg[]): void {
  let at = 2;
  while (at + 4 <= view.byteLength && view.getUint8(at) === 0xff) {
    const marker = view.getUint8(at + 1);
    const length = view.getUint16(at + 2);
    if (marker === 0xda || length < 2) return;
    const body = at + 4;
    if (marker === 0xe1 && view.getUint32(body) === 0x45786966) walkTiff(view, body + 6, found);
    if (marker === 0xe2 && view.getUint32(body) === 0x4d504600) walkMpf(view, body + 4, found);
    at += 2 + length;
  }
}

function walkMpf(view: DataView, start: number, found: EmbeddedJpeg[]): void {
  if (!isTiff(view, start)) return;
  const little = view.getUint16(start) === 0x4949;
  for (const entry of readIfd(view, start, view.getUint32(start + 4, little), little).entries) {
    if (entry.tag !== 0xb002) continue;
    const count = Math.min(Math.floor(entry.count / 16), 16);
    for (let i = 0; i < count; i++) {
      const item = start + entry.value + i * 16;
      const offset = view.getUint32(item + 8, little);
      // The first picture is the file itself and has offset 0.
      if (offset !== 0) {
        found.push({
          offset: start + offset,
          length: view.getUint32(item + 4, little),
          width: null,
          height: null,
        });
      }
    }
  }
}

interface IfdEntry {
  tag: number;
  count: number;
  /** the value when it fits into four bytes, else its offset */
  value: number;
}

function readIfd(
  view: DataView,
  base: number,
  offset: number,
  little: boolean,
): { entries: IfdEntry[]; next: number } {
  const at = base + offset;
  const count = Math.min(view.getUint16(at, little), MAX_ENTRIES);
  const entries: IfdEntry[] = [];
  for (let i = 0; i < count; i++) {
    const e = at + 2 + i * 12;
    const type = view.getUint16(e + 2, little);
    const many = view.getUint32(e + 4, little);
    const short = type === 3 && many === 1;
    entries.push({
      tag: view.getUint16(e, little),
      count: many,
      value: short ? view.getUint16(e + 8, little) : view.getUint32(e + 8, little),
    });
  }
  const after = at + 2 + count * 12;
  return { entries, next: after + 4 <= view.byteLength ? view.getUint32(after, little) : 0 };
}

function walkTiff(view: DataView, base: number, found: EmbeddedJpeg[]): void {
  const little = view.getUint16(base) === 0x4949;
  const queue = [view.getUint32(base + 4, little)];
  const seen = new Set<number>();
  while (queue.length > 0 && seen.size < MAX_IFDS) {
    const offset = queue.shift()!;
    if (offset === 0 || seen.has(offset)) continue;
    seen.add(offset);
    let ifd;
    try {
      ifd = readIfd(view, base, offset, little);
    } catch (error) {
      if (error instanceof RangeError) continue;
      throw error;
    }
    const value = (tag: number) => ifd.entries.find((e) => e.tag === tag)?.value;
    const subs = ifd.entries.find((e) => e.tag === 0x014a);
    if (subs?.count === 1) queue.push(subs.value);
    else if (subs) {
      for (let i = 0; i < Math.min(subs.count, 8); i++)
        queue.push(view.getUint32(base + subs.value + i * 4, little));
    }
    queue.push(ifd.next);
    const width = value(0x0100) ?? null;
    const height = value(0x0101) ?? null;
    const exif = [value(0x0201), value(0x0202)];
    if (exif[0] !== undefined && exif[1] !== undefined) {
      found.push({ offset: base + exif[0], length: exif[1], width, height });
    }
    const strips = ifd.entries.find((e) => e.tag === 0x0111);
    const compression = value(0x0103);
    // A JPEG of colour samples in one strip; lossless raw data is stored as JPEG too, but as CFA (32803) or LinearRaw.
    const photometric = value(0x0106);
    const isPicture = photometric === undefined || photometric === 2 || photometric === 6;
    // A strip whose tables stand in the directory (JPEGTables, TIFF technical note 2) is no stream of its own.
    const isWhole = value(0x015b) === undefined;
    if (isWhole && strips?.count === 1 && (compression === 7 || compression === 6) && isPicture) {
      found.push({ offset: base + strips.value, length: value(0x0117) ?? 0, width, height });
    }
  }
}
