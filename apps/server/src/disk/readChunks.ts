import type { Disk } from './disk';

/** Bytes of a file that are read at once. */
const CHUNK = 1024 * 1024;

/** A file from its beginning to its end. */
export async function* readChunks(disk: Disk, file: string): AsyncGenerator<Buffer> {
  const handle = await disk.openRead(file);
  try {
    for (let position = 0; ;) {
      const buffer = Buffer.allocUnsafe(CHUNK);
      const got = await handle.read(buffer, position);
      if (got === 0) return;
      position += got;
      yield buffer.subarray(0, got);
    }
  } finally {
    await handle.close();
  }
}
