// Writes TIFF structures (TIFF 6.0, little endian): what Exif, DNG and the multi-picture index are made of.

const SIZES = { 1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 7: 1, 10: 8 };
export const BYTE = 1,
  ASCII = 2,
  SHORT = 3,
  LONG = 4,
  RATIONAL = 5,
  UNDEFINED = 7,
  SRATIONAL = 10;

/** A tag. `value`: numbers, a string (ASCII), a Buffer (UNDEFINED), [n, d] pairs (rationals), or { ifd } / { blob }. */
export const tag = (id, type, value) => ({ id, type, value });

function encode(type, value) {
  if (Buffer.isBuffer(value)) return value;
  if (type === ASCII) return Buffer.from(`${value}\0`, 'latin1');
  const list = Array.isArray(value) ? value : [value];
  const pairs = type === RATIONAL || type === SRATIONAL ? (Array.isArray(list[0]) ? list : [list]) : null;
  const out = Buffer.alloc((pairs ?? list).length * SIZES[type]);
  (pairs ?? list).forEach((v, i) => {
    if (type === RATIONAL) {
      out.writeUInt32LE(v[0], i * 8);
      out.writeUInt32LE(v[1], i * 8 + 4);
    } else if (type === SRATIONAL) {
      out.writeInt32LE(v[0], i * 8);
      out.writeInt32LE(v[1], i * 8 + 4);
    } else if (type === SHORT) out.writeUInt16LE(v, i * 2);
    else if (type === LONG) out.writeUInt32LE(v, i * 4);
    else out.writeUInt8(v, i);
  });
  return out;
}

/**
 * Lays a chain of directories out after an 8-byte header. A tag's value may be { ifds: [tags, …] } for
 * sub-directories or { blob: Buffer } for bytes that stand elsewhere in the file (their offset is written).
 */
export function writeTiff(chain) {
  const parts = [];
  const blobs = [];
  let end = 8;
  const place = (bytes) => {
    const at = end + (end % 2);
    parts.push({ at, bytes });
    end = at + bytes.length;
    return at;
  };
  const writeIfd = (tags, nextOffset) => {
    const sorted = [...tags].sort((a, b) => a.id - b.id);
    const ifd = Buffer.alloc(2 + sorted.length * 12 + 4);
    const at = place(ifd);
    ifd.writeUInt16LE(sorted.length, 0);
    sorted.forEach(({ id, type, value }, i) => {
      const p = 2 + i * 12;
      let bytes;
      if (value?.ifds)
        bytes = encode(
          LONG,
          value.ifds.map((sub) => writeIfd(sub, 0)),
        );
      else if (value?.blob) {
        bytes = Buffer.alloc(4);
        blobs.push({ ifd, at: p + 8, bytes: value.blob });
      } else bytes = encode(type, value);
      ifd.writeUInt16LE(id, p);
      ifd.writeUInt16LE(type, p + 2);
      ifd.writeUInt32LE(bytes.length / SIZES[type], p + 4);
      if (bytes.length <= 4) bytes.copy(ifd, p + 8);
      else ifd.writeUInt32LE(place(bytes), p + 8);
    });
    ifd.writeUInt32LE(nextOffset, ifd.length - 4);
    return at;
  };
  // The last directory first, so that each knows where the next one stands.
  let next = 0;
  for (const tags of [...chain].reverse()) next = writeIfd(tags, next);
  // Pixels after all directories: a reader of the file's beginning then sees the whole structure.
  for (const { ifd, at, bytes } of blobs) ifd.writeUInt32LE(place(bytes), at);
  const out = Buffer.alloc(end);
  out.write('II', 0, 'latin1');
  out.writeUInt16LE(42, 2);
  out.writeUInt32LE(next, 4);
  for (const { at, bytes } of parts) bytes.copy(out, at);
  return out;
}

/** Exif tags (CIPA DC-008) of one press of the shutter. */
export function exifTags(shot, width, height) {
  const date = shot.local.replace('T', ' ').replace(/-/g, ':');
  return [
    tag(0x829a, RATIONAL, shot.exposure),
    tag(0x829d, RATIONAL, [Math.round(shot.aperture * 10), 10]),
    tag(0x8822, SHORT, 1),
    tag(0x8827, SHORT, shot.iso),
    tag(0x9000, UNDEFINED, Buffer.from('0232')),
    tag(0x9003, ASCII, date),
    tag(0x9004, ASCII, date),
    tag(0x9010, ASCII, shot.offset),
    tag(0x9011, ASCII, shot.offset),
    tag(0x9291, ASCII, String(shot.millis).padStart(3, '0')),
    tag(0x9292, ASCII, String(shot.millis).padStart(3, '0')),
    tag(0x920a, RATIONAL, [shot.focal, 1]),
    tag(0xa002, LONG, width),
    tag(0xa003, LONG, height),
    tag(0xa431, ASCII, shot.body.serial),
    tag(0xa434, ASCII, shot.body.lens),
  ];
}

export function mainTags(shot) {
  return [
    tag(0x010f, ASCII, shot.body.make),
    tag(0x0110, ASCII, shot.body.model),
    tag(0x0112, SHORT, shot.orientation),
    tag(0x0131, ASCII, 'Firmware 2.1'),
    tag(0x0132, ASCII, shot.local.replace('T', ' ').replace(/-/g, ':')),
  ];
}

/** Puts Exif (with a thumbnail) and a large embedded preview (Multi-Picture Format, CIPA DC-007) into a JPEG. */
export function wrapJpeg(jpeg, preview, thumbnail, shot, width, height) {
  const tiff = writeTiff([
    [...mainTags(shot), tag(0x8769, LONG, { ifds: [exifTags(shot, width, height)] })],
    [tag(0x0103, SHORT, 6), tag(0x0201, LONG, { blob: thumbnail }), tag(0x0202, LONG, thumbnail.length)],
  ]);
  const app1 = segment(0xe1, Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), tiff]));
  const mpf = (entries) =>
    segment(
      0xe2,
      Buffer.concat([
        Buffer.from('MPF\0', 'latin1'),
        writeTiff([
          [
            tag(0xb000, UNDEFINED, Buffer.from('0100')),
            tag(0xb001, LONG, 2),
            tag(0xb002, UNDEFINED, entries),
          ],
        ]),
      ]),
    );
  const entries = Buffer.alloc(32);
  const app2Length = mpf(entries).length;
  const whole = 2 + app1.length + app2Length + (jpeg.length - 2);
  const mpfHeader = 2 + app1.length + 4 + 4;
  entries.writeUInt32LE(0x00030000, 0);
  entries.writeUInt32LE(whole, 4);
  entries.writeUInt32LE(0x00010001, 16);
  entries.writeUInt32LE(preview.length, 20);
  entries.writeUInt32LE(whole - mpfHeader, 24);
  return Buffer.concat([jpeg.subarray(0, 2), app1, mpf(entries), jpeg.subarray(2), preview]);
}

function segment(marker, body) {
  const head = Buffer.alloc(4);
  head.writeUInt16BE(0xff00 | marker, 0);
  head.writeUInt16BE(body.length + 2, 2);
  return Buffer.concat([head, body]);
}

/** A DNG 1.4: thumbnail, raw samples of a Bayer sensor (16 bit), full-size JPEG preview (or null: none), Exif. */
export function writeDng(raw, preview, thumbnail, shot, width, height) {
  const picture = (bytes, w, h) => [
    tag(0x00fe, LONG, 1),
    tag(0x0100, LONG, w),
    tag(0x0101, LONG, h),
    tag(0x0102, SHORT, [8, 8, 8]),
    tag(0x0103, SHORT, 7),
    tag(0x0106, SHORT, 6),
    tag(0x0111, LONG, { blob: bytes }),
    tag(0x0115, SHORT, 3),
    tag(0x0116, LONG, h),
    tag(0x0117, LONG, bytes.length),
  ];
  const sensor = [
    tag(0x00fe, LONG, 0),
    tag(0x0100, LONG, width),
    tag(0x0101, LONG, height),
    tag(0x0102, SHORT, 16),
    tag(0x0103, SHORT, 1),
    tag(0x0106, SHORT, 32803),
    tag(0x0111, LONG, { blob: raw }),
    tag(0x0115, SHORT, 1),
    tag(0x0116, LONG, height),
    tag(0x0117, LONG, raw.length),
    tag(0x828d, SHORT, [2, 2]),
    tag(0x828e, BYTE, [0, 1, 1, 2]),
    tag(0xc61a, SHORT, 512),
    tag(0xc61d, SHORT, 16383),
  ];
  return writeTiff([
    [
      ...picture(thumbnail.bytes, thumbnail.width, thumbnail.height),
      ...mainTags(shot),
      tag(0x014a, LONG, { ifds: [sensor, ...(preview ? [picture(preview, width, height)] : [])] }),
      tag(0x8769, LONG, { ifds: [exifTags(shot, width, height)] }),
      tag(0xc612, BYTE, [1, 4, 0, 0]),
      tag(0xc613, BYTE, [1, 1, 0, 0]),
      tag(0xc614, ASCII, `${shot.body.make} ${shot.body.model}`),
      tag(0xc621, SRATIONAL, [
        [32405, 10000],
        [-15371, 10000],
        [-4985, 10000],
        [-9693, 10000],
        [18760, 10000],
        [416, 10000],
        [556, 10000],
        [-2040, 10000],
        [10572, 10000],
      ]),
      // The samples are those of a picture whose white is balanced: a neutral grey is equal in all three.
      tag(0xc628, RATIONAL, [
        [1, 1],
        [1, 1],
        [1, 1],
      ]),
      tag(0xc65a, SHORT, 21),
    ],
  ]);
}
