import { createHash } from 'node:crypto';
import type { Disk, DiskPath } from '../disk/disk';

/** Bytes of each end: what cameras write of a moment stands at the beginning, and a picture's last rows at the end. */
const END = 64 * 1024;

/** The checksum of a file's size and both its ends, by which it is known before it is read whole. In lower-case hexadecimal. */
export async function endsOf(disk: Disk, file: DiskPath, size: number): Promise<string> {
  const hash = createHash('sha256').update(`${size}\n`);
  hash.update(await disk.readPart(file, 0, END));
  if (size > END) hash.update(await disk.readPart(file, Math.max(END, size - END), END));
  return hash.digest('hex');
}
