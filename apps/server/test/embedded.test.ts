import sharp from 'sharp';
import type { Disk } from '../src/disk/disk';
import { Contents } from '../src/metadata/contents.service';
import type { MetadataTool } from '../src/metadata/metadataTool';
import type { Parser } from '../src/metadata/parser';

const RAW = { role: 'original', format: 'nef', raw: true } as const;

/** A raw's head whose Exif names an interoperability index (CIPA DC-008, 4.6.7): three directories of one entry each. */
function head(index: string): Buffer {
  const bytes = Buffer.alloc(64);
  bytes.write('II*\0', 'latin1');
  bytes.writeUInt32LE(8, 4);
  const directory = (at: number, tag: number, type: number, count: number, value: number | string) => {
    bytes.writeUInt16LE(1, at);
    bytes.writeUInt16LE(tag, at + 2);
    bytes.writeUInt16LE(type, at + 4);
    bytes.writeUInt32LE(count, at + 6);
    if (typeof value === 'string') bytes.write(value, at + 10, 'latin1');
    else bytes.writeUInt32LE(value, at + 10);
  };
  directory(8, 0x8769, 4, 1, 26);
  directory(26, 0xa005, 4, 1, 44);
  directory(44, 0x0001, 2, 4, `${index}\0`);
  return bytes;
}

/** `found`: places of pictures in the head; `hidden`: what lies where its maker alone knows. */
const contents = (bytes: Buffer, found: object[], hidden: Buffer | null) =>
  new Contents(
    {
      readPart: (_: string, at: number, n: number) => Promise.resolve(bytes.subarray(at, at + n)),
    } as unknown as Disk,
    { embedded: () => Promise.resolve(found) } as unknown as Parser,
    { embedded: () => Promise.resolve(hidden) } as unknown as MetadataTool,
  );
const flat = (width: number) =>
  sharp({ create: { width, height: width / 2, channels: 3, background: '#3a9a3a' } })
    .jpeg()
    .toBuffer();

describe('a picture inside a raw', () => {
  it('has the colours that the raw means, wherever in it the maker put the picture', async () => {
    const picture = await flat(64);
    const hidden = async (index: string) => {
      const { bytes } = await contents(head(index), [], picture).embedded('x', RAW, 'largest');
      return (await sharp(bytes!).metadata()).icc;
    };
    expect(await hidden('R98')).toBeUndefined();
    expect((await hidden('R03'))!.length).toBeGreaterThan(100);
    const raw = Buffer.concat([head('R03'), picture]);
    const place = { offset: 64, length: picture.length, width: 64, height: 32 };
    const found = await contents(raw, [place], null).embedded('x', RAW, 'largest');
    expect((await sharp(found.bytes!).metadata()).icc!.length).toBeGreaterThan(100);
  });

  it('counts as small where it is no larger than a thumbnail, or there is none', async () => {
    const small = async (width: number | null, hidden: Buffer | null) => {
      const picture = width === null ? Buffer.alloc(0) : await flat(width);
      const place = { offset: 64, length: picture.length, width, height: (width ?? 0) / 2 };
      const raw = Buffer.concat([head('R98'), picture]);
      const { small: is, side } = await contents(raw, width === null ? [] : [place], hidden).embedded(
        'x',
        RAW,
        'largest',
      );
      return [is, side];
    };
    expect(await small(null, null)).toEqual([true, 0]);
    expect(await small(160, null)).toEqual([true, 160]);
    expect(await small(1620, null)).toEqual([false, 1620]);
    expect(await small(null, Buffer.alloc(20_000))).toEqual([true, 0]);
    expect(await small(null, Buffer.alloc(400_000))).toEqual([false, 0]);
  });
});
