// Writes a clip: a QuickTime file (ISO 14496-12 boxes) whose pictures are JPEGs, as simple cameras make it.

const box = (type, ...parts) => {
  const body = Buffer.concat(parts);
  const head = Buffer.alloc(8);
  head.writeUInt32BE(body.length + 8, 0);
  head.write(type, 4, 'latin1');
  return Buffer.concat([head, body]);
};
const u32 = (...values) => {
  const out = Buffer.alloc(values.length * 4);
  values.forEach((v, i) => out.writeUInt32BE(v >>> 0, i * 4));
  return out;
};
const u16 = (...values) => {
  const out = Buffer.alloc(values.length * 2);
  values.forEach((v, i) => out.writeUInt16BE(v, i * 2));
  return out;
};
const UNITY = u32(0x10000, 0, 0, 0, 0x10000, 0, 0, 0, 0x40000000);
/** Seconds from 1904-01-01, where QuickTime's clock begins, to 1970. */
const EPOCH_1904 = 2082844800;

/** frames: JPEG buffers of one size; perSecond: pictures a second; made: milliseconds since 1970. */
export function writeClip(frames, { width, height, perSecond, made }) {
  const scale = perSecond * 100;
  const duration = frames.length * 100;
  const time = Math.round(made / 1000) + EPOCH_1904;
  const start = box('ftyp', Buffer.from('qt  \x00\x00\x02\x00qt  ', 'latin1'));
  const media = box('mdat', ...frames);
  const first = start.length + 8;
  const offsets = [];
  let at = first;
  for (const frame of frames) {
    offsets.push(at);
    at += frame.length;
  }
  const description = box(
    'jpeg',
    Buffer.alloc(6),
    u16(1),
    Buffer.alloc(16),
    u16(width, height),
    u32(0x480000, 0x480000, 0),
    u16(1),
    Buffer.alloc(32),
    u16(24, 0xffff),
  );
  const table = box(
    'stbl',
    box('stsd', u32(0, 1), description),
    box('stts', u32(0, 1, frames.length, 100)),
    box('stsc', u32(0, 1, 1, 1, 1)),
    box('stsz', u32(0, 0, frames.length, ...frames.map((f) => f.length))),
    box('stco', u32(0, frames.length, ...offsets)),
  );
  const handler = (kind, sub) =>
    box('hdlr', u32(0), Buffer.from(kind + sub, 'latin1'), u32(0, 0, 0), Buffer.from([0]));
  const track = box(
    'trak',
    box(
      'tkhd',
      u32(0x00000007, time, time, 1, 0, duration, 0, 0, 0, 0),
      UNITY,
      u32(width << 16, height << 16),
    ),
    box(
      'mdia',
      box('mdhd', u32(0, time, time, scale, duration), u16(0x55c4, 0)),
      handler('mhlr', 'vide'),
      box(
        'minf',
        box('vmhd', u32(1), u16(0x40, 0x8000, 0x8000, 0x8000)),
        box('dinf', box('dref', u32(0, 1), box('url ', u32(1)))),
        table,
      ),
    ),
  );
  const header = box(
    'mvhd',
    u32(0, time, time, scale, duration, 0x10000),
    u16(0x100, 0),
    u32(0, 0),
    UNITY,
    u32(0, 0, 0, 0, 0, 0, 2),
  );
  return Buffer.concat([start, media, box('moov', header, track)]);
}
