import libheif from 'libheif-js/wasm-bundle';

/** Pixels without alpha meaning, upright: the container's own turns are applied. */
export interface HeicPicture {
  /** RGBA, 8 bit */
  data: Buffer;
  width: number;
  height: number;
  /** the ICC profile that the container names, or null */
  profile: Buffer | null;
}

/** Brands of HEVC-coded containers (ISO/IEC 23008-12, annex B) and of containers that may hold anything. */
const HEVC = ['heic', 'heix', 'heim', 'heis', 'hevc', 'hevx', 'hevm', 'hevs'];
const OPEN = ['mif1', 'msf1'];

/** Whether a file's beginning names a HEVC-coded picture. AV1-coded ones are decoded by the usual library. */
export function isHeic(head: Buffer): boolean {
  if (head.length < 16 || head.toString('latin1', 4, 8) !== 'ftyp') return false;
  const end = Math.min(head.readUInt32BE(0), head.length);
  const brands: string[] = [];
  for (let at = 8; at + 4 <= end; at += 4) if (at !== 12) brands.push(head.toString('latin1', at, at + 4));
  if (brands.some((brand) => HEVC.includes(brand))) return true;
  return brands.some((brand) => OPEN.includes(brand)) && !brands.includes('avif');
}

/** Decodes the primary picture. Throws with the decoder's own words. */
export async function decodeHeic(bytes: Buffer, pixelLimit: number): Promise<HeicPicture> {
  const images = new libheif.HeifDecoder().decode(bytes);
  const image = images.find((one) => one.is_primary?.()) ?? images[0];
  if (!image) throw new Error('the HEIC container holds no picture');
  const width = image.get_width();
  const height = image.get_height();
  if (width * height > pixelLimit) throw new Error('the picture exceeds the limit of pixels');
  const data = Buffer.alloc(width * height * 4);
  const target = { data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length), width, height };
  const done = await new Promise<unknown>((resolve) => image.display(target, resolve));
  for (const one of images) one.free?.();
  if (!done) throw new Error('the HEVC stream cannot be decoded');
  return { data, width, height, profile: profileOf(bytes) };
}

/** The first colour box of kind `prof` (ISO/IEC 14496-12, 12.1.5): most HEIC files hold one profile for all tiles. */
function profileOf(bytes: Buffer): Buffer | null {
  const at = bytes.indexOf('colrprof', 0, 'latin1');
  if (at < 4) return null;
  const end = at - 4 + bytes.readUInt32BE(at - 4);
  return end > at + 8 + 128 && end <= bytes.length ? bytes.subarray(at + 8, end) : null;
}

/**
 * The picture as an uncompressed TIFF (TIFF 6.0) with its profile: the one form in which pixels and an input profile
 * can be handed on together. Alpha goes: photographs have none.
 */
export function asTiff({ data, width, height, profile }: HeicPicture): Buffer {
  const pixels = Buffer.alloc(width * height * 3);
  for (let from = 0, to = 0; from < data.length; from += 4, to += 3) {
    pixels[to] = data[from]!;
    pixels[to + 1] = data[from + 1]!;
    pixels[to + 2] = data[from + 2]!;
  }
  const SHORT = 3;
  const LONG = 4;
  const UNDEFINED = 7;
  const entries: [number, number, number, number][] = [
    [256, LONG, 1, width],
    [257, LONG, 1, height],
    [258, SHORT, 3, 0],
    [259, SHORT, 1, 1],
    [262, SHORT, 1, 2],
    [273, LONG, 1, 0],
    [277, SHORT, 1, 3],
    [278, LONG, 1, height],
    [279, LONG, 1, pixels.length],
    ...(profile ? [[34675, UNDEFINED, profile.length, 0] as [number, number, number, number]] : []),
  ];
  const bitsAt = 8 + 2 + entries.length * 12 + 4;
  const profileAt = bitsAt + 8;
  const pixelsAt = profileAt + (profile ? profile.length + (profile.length % 2) : 0);
  const head = Buffer.alloc(pixelsAt);
  head.write('II', 'latin1');
  head.writeUInt16LE(42, 2);
  head.writeUInt32LE(8, 4);
  head.writeUInt16LE(entries.length, 8);
  entries.forEach(([tag, type, count, value], i) => {
    const at = 10 + i * 12;
    head.writeUInt16LE(tag, at);
    head.writeUInt16LE(type, at + 2);
    head.writeUInt32LE(count, at + 4);
    head.writeUInt32LE(
      tag === 258 ? bitsAt : tag === 273 ? pixelsAt : tag === 34675 ? profileAt : value,
      at + 8,
    );
  });
  for (const i of [0, 1, 2]) head.writeUInt16LE(8, bitsAt + i * 2);
  profile?.copy(head, profileAt);
  return Buffer.concat([head, pixels]);
}
