import { isOf, type Segment } from './jpegHead';

const NAME = 'MPF\0';
const ENTRIES = 0xb002;
const [TAG, PICTURE] = [12, 16];

export const isMultiPicture = (segment: Segment): boolean => isOf(segment, 2, NAME);

/**
 * The index of a file of several pictures (CIPA DC-007) after the head of its first one grew by `first` bytes, of which `behind` stand
 * behind the index: other pictures are found by their distance from it. Null where it cannot be read.
 */
export function movedIndex(segment: Segment, first: number, behind: number): Segment | null {
  // A copy, whatever kind of bytes these are: that of a Buffer's slice would be the file itself.
  const bytes = new Uint8Array(segment.bytes);
  const begin = 4 + NAME.length;
  const view = new DataView(bytes.buffer, begin);
  try {
    const order = view.getUint16(0);
    if (order !== 0x4949 && order !== 0x4d4d) return null;
    const little = order === 0x4949;
    const at = view.getUint32(4, little);
    for (let i = 0; i < view.getUint16(at, little); i++) {
      const entry = at + 2 + i * TAG;
      if (view.getUint16(entry, little) !== ENTRIES) continue;
      const [length, list] = [view.getUint32(entry + 4, little), view.getUint32(entry + 8, little)];
      for (let of = list; of + PICTURE <= list + length; of += PICTURE) {
        const place = view.getUint32(of + 8, little);
        // The first one is the file itself, at no distance.
        if (place === 0) view.setUint32(of + 4, view.getUint32(of + 4, little) + first, little);
        else view.setUint32(of + 8, place + behind, little);
      }
    }
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
  return { marker: segment.marker, bytes };
}
