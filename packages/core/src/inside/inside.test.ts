import { createHash } from 'node:crypto';
import { EMPTY_DESCRIPTION } from '../description/description';
import { exifTexts, withExifTexts } from './exifTexts';
import { iimTexts, readIim, writeIim } from './iim';
import { bodyOf, isOf, joined, jpegHead, segmentOf } from './jpegHead';
import { readInside, withInside } from './inside';
import { movedIndex } from './multiPicture';
import { readResources, resourceSegments, TEXTS, UNNAMED } from './resources';

const text = (letters: string) => new TextEncoder().encode(letters);
const md5 = (bytes: Uint8Array) => createHash('md5').update(bytes).digest();
const XMP = 'http://ns.adobe.com/xap/1.0/\0';

/** A camera's block: a directory with a maker's name (Make) and a description, then one more, then bytes that only the maker knows. */
function exif(little: boolean): Uint8Array {
  const bytes = new Uint8Array(120);
  const view = new DataView(bytes.buffer);
  view.setUint16(0, little ? 0x4949 : 0x4d4d);
  view.setUint16(2, 42, little);
  view.setUint32(4, 8, little);
  view.setUint16(8, 2, little);
  const row = (at: number, tag: number, count: number, value: number) => {
    view.setUint16(at, tag, little);
    view.setUint16(at + 2, 2, little);
    view.setUint32(at + 4, count, little);
    view.setUint32(at + 8, value, little);
  };
  row(10, 0x010e, 11, 60);
  row(22, 0x010f, 9, 80);
  view.setUint32(34, 38, little);
  bytes.set(text('of the day\0'), 60);
  bytes.set(text('Invented\0'), 80);
  bytes.set(text('maker notes'), 100);
  return bytes;
}

/** The index of a file of two pictures, the second at a distance. */
function index(distance: number): Uint8Array {
  const bytes = new Uint8Array(8 + 2 + 12 + 4 + 32);
  const view = new DataView(bytes.buffer);
  view.setUint16(0, 0x4d4d);
  view.setUint16(2, 42);
  view.setUint32(4, 8);
  view.setUint16(8, 1);
  view.setUint16(10, 0xb002);
  view.setUint16(12, 7);
  view.setUint32(14, 32);
  view.setUint32(18, 26);
  view.setUint32(26 + 4, 5000);
  view.setUint32(26 + 16 + 8, distance);
  return bytes;
}

const TABLES = Uint8Array.of(0xff, 0xdb, 0, 5, 1, 2, 3);
const SCAN = Uint8Array.of(0xff, 0xda, 0, 4, 9, 9, 0x12, 0xff, 0x00, 0x34, 0xff, 0xd9);
const file = (...segments: (Uint8Array | { bytes: Uint8Array })[]) =>
  joined([
    Uint8Array.of(0xff, 0xd8),
    ...segments.map((one) => (one instanceof Uint8Array ? one : one.bytes)),
    SCAN,
  ]);
const said = {
  ...EMPTY_DESCRIPTION,
  caption: 'Grèce, the “white heron”',
  creator: 'Ana Pinto',
  keywords: ['heron', 'fish'],
  city: 'Søby',
};
const put = (jpeg: Uint8Array) => {
  const made = withInside(jpeg, '<x>packet</x>', said, md5);
  if (!made.ok) throw new Error(made.reason);
  return { ...made, whole: joined([made.head, jpeg.subarray(made.replaces)]) };
};

describe('what is said inside a JPEG', () => {
  it('is put into one that says nothing, and the picture behind it stays byte for byte', () => {
    const jpeg = file(TABLES);
    const { whole } = put(jpeg);
    expect(readInside(whole)).toEqual({
      xmp: '<x>packet</x>',
      iim: expect.objectContaining({ caption: said.caption, city: 'Søby', keywords: ['heron', 'fish'] }),
      exif: { caption: said.caption, creator: 'Ana Pinto', rights: null },
    });
    expect(whole.subarray(whole.length - SCAN.length)).toEqual(SCAN);
    expect(jpegHead(whole)!.segments.at(-1)!.bytes).toEqual(TABLES);
  });

  it('takes the place of what was said there, and leaves all other segments as they are, in their order', () => {
    const profile = segmentOf(2, 'ICC_PROFILE\0', text('profile'))!;
    const further = segmentOf(1, 'http://ns.adobe.com/xmp/extension/\0', text('more'))!;
    const [, size] = readResources(
      resourceSegments([
        { id: TEXTS, name: UNNAMED, content: writeIim({ ...said, caption: 'old' }, []) },
        { id: 0x03ed, name: Uint8Array.of(3, 97, 98, 99), content: text('resolution') },
      ]),
    )!;
    const jpeg = file(
      segmentOf(0, 'JFIF\0', text('head'))!,
      profile,
      segmentOf(1, XMP, text('<x>old</x>'))!,
      ...resourceSegments([
        { id: TEXTS, name: UNNAMED, content: writeIim({ ...said, caption: 'old' }, []) },
        size!,
      ]),
      further,
      TABLES,
    );
    const { whole } = put(jpeg);
    expect(readInside(whole)).toMatchObject({ xmp: '<x>packet</x>', iim: { caption: said.caption } });
    const { segments } = jpegHead(whole)!;
    expect(isOf(segments[0]!, 0, 'JFIF\0')).toBe(true);
    expect(segments.slice(-3).map(({ bytes }) => bytes)).toEqual([profile.bytes, further.bytes, TABLES]);
    expect(readResources(segments)!.map(({ id }) => id)).toEqual([0x03ed, TEXTS, 0x0425]);
    expect(readResources(segments)![0]).toEqual(size);
    // What was put in once is put in again: nothing grows.
    expect(put(whole).whole).toEqual(whole);
  });

  it.each([true, false])(
    'is said in Exif without moving what the camera wrote (little-endian: %s)',
    (little) => {
      const block = exif(little);
      const written = withExifTexts(block, { caption: 'Ünder the bridge', creator: 'A', rights: null })!;
      expect(exifTexts(written)).toEqual({ caption: 'Ünder the bridge', creator: 'A', rights: null });
      // But for the place of the directory, the block stands there as it was.
      expect(written.subarray(8, block.length)).toEqual(block.subarray(8));
      expect(written.length % 2).toBe(0);
      expect(exifTexts(withExifTexts(written, { caption: null, creator: null, rights: 'c' })!)).toEqual({
        caption: 'Ünder the bridge',
        creator: 'A',
        rights: 'c',
      });
      // The next directory is still the next one.
      const view = new DataView(written.buffer);
      const at = view.getUint32(4, little);
      expect(view.getUint32(at + 2 + view.getUint16(at, little) * 12, little)).toBe(38);
    },
  );

  it('leaves Exif as it was where the texts do not fit into one segment', () => {
    const big = new Uint8Array(65_500);
    big.set(exif(true));
    const camera = segmentOf(1, 'Exif\0\0', big)!;
    const { segments } = jpegHead(put(file(camera, TABLES)).whole)!;
    expect(segments[0]!.bytes).toEqual(camera.bytes);
  });

  it('still finds the other pictures of a file of several', () => {
    const second = text('second picture');
    const broken = segmentOf(2, 'MPF\0', index(0))!;
    const old = segmentOf(1, XMP, text('<x>a packet that stands behind the index</x>'))!;
    const make = (distance: number) =>
      joined([file(segmentOf(2, 'MPF\0', index(distance))!, old, TABLES), second]);
    const distance = make(0).length - second.length - (2 + 8);
    // As it comes from a disk.
    const jpeg = Buffer.from(make(distance));
    const before = Buffer.from(jpeg);
    const { whole } = put(jpeg);
    expect(jpeg).toEqual(before);
    const found = jpegHead(whole)!.segments.find((one) => isOf(one, 2, 'MPF\0'))!;
    const at = found.bytes.byteOffset - whole.byteOffset + 8;
    const view = new DataView(whole.buffer, at);
    const place = at + view.getUint32(26 + 16 + 8);
    expect(new TextDecoder().decode(whole.subarray(place))).toBe('second picture');
    expect(view.getUint32(26 + 4)).toBe(5000 + whole.length - jpeg.length);
    expect(movedIndex({ ...broken, bytes: broken.bytes.subarray(0, 20) }, 1, 1)).toBeNull();
  });

  it.each([
    ['no JPEG', text('not a picture at all'), 'not built as a JPEG'],
    ['one that is cut in its head', file(TABLES).subarray(0, 6), 'not built as a JPEG'],
    ['one whose APP13 is broken', file(segmentOf(13, 'Photoshop 3.0\0', text('8BIMxx'))!), 'APP13'],
    [
      'one whose old texts are broken',
      file(...resourceSegments([{ id: TEXTS, name: UNNAMED, content: text('nonsense') }])),
      'IPTC',
    ],
  ])('is refused by %s', (_, jpeg, reason) => {
    expect(withInside(jpeg, '<x/>', said, md5)).toEqual({
      ok: false,
      reason: expect.stringContaining(reason),
    });
  });

  it('is refused where the packet is longer than a segment', () => {
    expect(withInside(file(TABLES), 'x'.repeat(65_536), said, md5)).toMatchObject({ ok: false });
  });
});

describe('texts of the old model', () => {
  const letters = (...codes: number[]) => Uint8Array.from(codes);

  it('keep what nobody here knows, in letters that all can be read in', () => {
    // A category and a keyword, in Latin-1, from before.
    const there = readIim(
      joined([letters(0x1c, 2, 15, 0, 3, 0x53, 0xe4, 0x65), letters(0x1c, 2, 25, 0, 3), text('old')]),
    )!;
    const written = readIim(writeIim(said, there))!;
    expect(written.map(({ record, number }) => `${record}:${number}`)).toEqual([
      ...['1:0', '1:90', '2:0', '2:15', '2:25', '2:25', '2:80', '2:90', '2:120'],
    ]);
    expect(new TextDecoder().decode(written[3]!.value)).toBe('Säe');
    expect(iimTexts(written).keywords).toEqual(['heron', 'fish']);
  });

  it('hold a caption of any length, whole', () => {
    const long = 'é'.repeat(40_000);
    expect(iimTexts(readIim(writeIim({ ...said, caption: long }, []))!).caption).toBe(long);
  });

  it.each([
    ['a wrong tag', letters(0x1d, 2, 5, 0, 0)],
    ['a value that is cut', letters(0x1c, 2, 5, 0, 9, 1)],
    ['a length of nine bytes', letters(0x1c, 2, 5, 0x80, 9, 0)],
  ])('cannot be read with %s', (_, bytes) => {
    expect(readIim(bytes)).toBeNull();
  });

  it('may be filled up with zeros', () => {
    expect(readIim(letters(0x1c, 2, 5, 0, 1, 65, 0, 0))).toHaveLength(1);
    expect(bodyOf(segmentOf(13, '', letters(1))!)).toEqual(letters(1));
  });
});
