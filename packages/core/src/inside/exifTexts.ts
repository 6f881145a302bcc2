import { joined } from './jpegHead';

/** The texts that Exif has places for (CIPA DC-008, 4.6.5): what programs show that read nothing else. */
export interface ExifTexts {
  caption: string | null;
  creator: string | null;
  rights: string | null;
}

const TAGS = { caption: 0x010e, creator: 0x013b, rights: 0x8298 } as const satisfies Record<
  keyof ExifTexts,
  number
>;
const [ASCII, ENTRY] = [2, 12];
/** A directory of a camera has some twenty entries; a made file could claim any number. */
const MOST_ENTRIES = 1000;
/** An Exif block that says nothing: `II`, 42, a directory at 8 without an entry. */
const EMPTY = Uint8Array.of(0x49, 0x49, 42, 0, 8, 0, 0, 0, 0, 0, 0, 0, 0, 0);

interface Directory {
  little: boolean;
  at: number;
  /** raw entries */
  entries: { tag: number; bytes: Uint8Array }[];
  /** where the next directory is */
  next: Uint8Array;
}

/**
 * An Exif block with these texts in its first directory. The directory is written anew behind everything else, so that whatever points
 * into the block (makers' own notes do, in ways nobody else knows) still points at the same bytes. A text that nobody says stays as the
 * camera wrote it. Null: there was none and nothing is said, or what is there cannot be read.
 */
export function withExifTexts(tiff: Uint8Array | null, texts: ExifTexts): Uint8Array | null {
  const said = (Object.keys(TAGS) as (keyof ExifTexts)[]).flatMap((field) =>
    texts[field] === null ? [] : [{ tag: TAGS[field], text: new TextEncoder().encode(`${texts[field]}\0`) }],
  );
  if (tiff === null && said.length === 0) return null;
  const block = tiff ?? EMPTY;
  const directory = directoryOf(block);
  if (!directory) return null;
  const there = exifTexts(block)!;
  if ((Object.keys(TAGS) as (keyof ExifTexts)[]).every((of) => texts[of] === null || texts[of] === there[of]))
    return block;
  const { little } = directory;
  const entries = [
    ...directory.entries.filter(({ tag }) => !said.some((its) => its.tag === tag)),
    ...said.map(({ tag, text }) => ({ tag, bytes: null, text })),
  ].sort((one, other) => one.tag - other.tag);
  // Values begin at even places.
  const begin = block.length + (block.length % 2);
  let free = begin + 2 + entries.length * ENTRY + 4;
  const values: Uint8Array[] = [];
  const rows = entries.map((entry) => {
    if (entry.bytes) return entry.bytes;
    const row = new Uint8Array(ENTRY);
    const view = new DataView(row.buffer);
    view.setUint16(0, entry.tag, little);
    view.setUint16(2, ASCII, little);
    view.setUint32(4, entry.text.length, little);
    if (entry.text.length <= 4) row.set(entry.text, 8);
    else {
      view.setUint32(8, free, little);
      const padded = new Uint8Array(entry.text.length + (entry.text.length % 2));
      padded.set(entry.text);
      values.push(padded);
      free += padded.length;
    }
    return row;
  });
  const count = new Uint8Array(2);
  new DataView(count.buffer).setUint16(0, entries.length, little);
  const whole = joined([
    block,
    new Uint8Array(begin - block.length),
    ...[count, ...rows, directory.next, ...values],
  ]);
  new DataView(whole.buffer).setUint32(4, begin, little);
  return whole;
}

/** The texts in an Exif block; null where it cannot be read. */
export function exifTexts(tiff: Uint8Array): ExifTexts | null {
  const directory = directoryOf(tiff);
  if (!directory) return null;
  const textOf = (tag: number): string | null => {
    const entry = directory.entries.find((one) => one.tag === tag);
    if (!entry) return null;
    const view = new DataView(entry.bytes.buffer, entry.bytes.byteOffset, ENTRY);
    const length = view.getUint32(4, directory.little);
    const at = view.getUint32(8, directory.little);
    const bytes = length <= 4 ? entry.bytes.subarray(8, 8 + length) : tiff.subarray(at, at + length);
    return new TextDecoder().decode(bytes).replace(/\0.*$/s, '');
  };
  return { caption: textOf(TAGS.caption), creator: textOf(TAGS.creator), rights: textOf(TAGS.rights) };
}

function directoryOf(tiff: Uint8Array): Directory | null {
  if (tiff.length < 14) return null;
  const view = new DataView(tiff.buffer, tiff.byteOffset, tiff.byteLength);
  const order = view.getUint16(0);
  if (order !== 0x4949 && order !== 0x4d4d) return null;
  const little = order === 0x4949;
  if (view.getUint16(2, little) !== 42) return null;
  const at = view.getUint32(4, little);
  if (at + 2 > tiff.length) return null;
  const count = view.getUint16(at, little);
  const end = at + 2 + count * ENTRY;
  if (count > MOST_ENTRIES || end + 4 > tiff.length) return null;
  const entries = Array.from({ length: count }, (_, i) => {
    const from = at + 2 + i * ENTRY;
    return { tag: view.getUint16(from, little), bytes: tiff.subarray(from, from + ENTRY) };
  });
  return { little, at, entries, next: tiff.subarray(end, end + 4) };
}
