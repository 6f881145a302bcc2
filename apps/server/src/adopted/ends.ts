import { createHash } from 'node:crypto';
import type { Disk, DiskPath } from '../disk/disk';
import { HEAD_BYTES } from '../metadata/contents.service';

/** Bytes of each end: what cameras write of a moment stands at the beginning, and a picture's last rows at the end. */
const END = HEAD_BYTES;

/** The checksum of a file's size and both its ends, by which it is known before it is read whole, in lower-case hexadecimal; and its beginning. */
export async function endsOf(
  disk: Disk,
  file: DiskPath,
  size: number,
): Promise<{ ends: string; head: Buffer }> {
  const head = await disk.readPart(file, 0, Math.min(END, size));
  const hash = createHash('sha256').update(`${size}\n`).update(head);
  if (size > END) hash.update(await disk.readPart(file, Math.max(END, size - END), END));
  return { ends: hash.digest('hex'), head };
}
