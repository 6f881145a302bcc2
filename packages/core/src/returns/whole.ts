/** Bytes of a file's end that are looked at: programs put some of their own behind a JPEG's last marker. */
export const TAIL_BYTES = 64 * 1024;

/**
 * Whether a picture's file seems to be all there, as far as its format says: one that a program is still writing must be left alone.
 * `head` and `tail`: its first and last bytes. Formats that do not tell are taken for whole.
 */
export function seemsWhole(format: string, head: Uint8Array, tail: Uint8Array, size: number): boolean {
  if (size === 0) return false;
  switch (format) {
    case 'jpeg':
      return holds(head, 0, [0xff, 0xd8]) && lastOf(tail, [0xff, 0xd9]) >= 0;
    case 'png':
      return holds(head, 1, [0x50, 0x4e, 0x47]) && lastOf(tail, [0x49, 0x45, 0x4e, 0x44]) >= 0;
    case 'webp':
      return (
        holds(head, 0, [0x52, 0x49, 0x46, 0x46]) &&
        head.length >= 8 &&
        viewOf(head).getUint32(4, true) + 8 <= size
      );
    case 'tiff':
      return isWholeTiff(head, size);
    default:
      return true;
  }
}

/** Programs write a TIFF's header first, and where its directory is once that is written. */
function isWholeTiff(head: Uint8Array, size: number): boolean {
  if (head.length < 16) return false;
  const view = viewOf(head);
  const order = view.getUint16(0);
  if (order !== 0x4949 && order !== 0x4d4d) return false;
  const little = order === 0x4949;
  const kind = view.getUint16(2, little);
  // BigTIFF has eight bytes for each place.
  const at = kind === 43 ? Number(view.getBigUint64(8, little)) : view.getUint32(4, little);
  return (kind === 42 || kind === 43) && at >= 8 && at + 2 <= size;
}

const viewOf = (bytes: Uint8Array): DataView =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

const holds = (bytes: Uint8Array, at: number, what: readonly number[]): boolean =>
  what.every((byte, i) => bytes[at + i] === byte);

function lastOf(bytes: Uint8Array, what: readonly number[]): number {
  for (let at = bytes.length - what.length; at >= 0; at--) if (holds(bytes, at, what)) return at;
  return -1;
}
