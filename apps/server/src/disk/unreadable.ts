import { diskErrorCode, type Disk, type DiskPath } from './disk';
import { CHUNK } from './verifiedCopy';

/** Bytes from `from` up to, not including, `to`. */
export interface ByteRange {
  from: number;
  to: number;
}

/** A device gives up whole blocks; 64 KiB is the largest that card controllers map at once (common practice, no source). */
const BLOCK = 64 * 1024;
/** A failing block can take seconds: after this many the rest is given up, and said to be so. */
const MAX_FAILING = 64;

/**
 * Which bytes of a file cannot be read, looked for from `start` on. Large pieces are read first; where one fails, block
 * by block. Empty when everything can be read by now.
 */
export async function unreadableRanges(
  disk: Disk,
  file: DiskPath,
  size: number,
  start: number,
): Promise<ByteRange[]> {
  const ranges: ByteRange[] = [];
  const handle = await disk.openRead(file);
  const buffer = new Uint8Array(CHUNK);
  let failing = 0;
  /** Reads a piece; null when all of it came, otherwise the byte at which it failed. */
  const failsAt = async (from: number, to: number): Promise<number | null> => {
    let at = from;
    try {
      while (at < to) {
        const got = await handle.read(buffer.subarray(0, to - at), at);
        if (got === 0) return null;
        at += got;
      }
      return null;
    } catch (error) {
      if (diskErrorCode(error) === null) throw error;
      return at;
    }
  };
  const note = (from: number, to: number): void => {
    const last = ranges.at(-1);
    if (last?.to === from) last.to = to;
    else ranges.push({ from, to });
  };
  try {
    for (let at = Math.floor(start / BLOCK) * BLOCK; at < size; at += CHUNK) {
      const end = Math.min(size, at + CHUNK);
      if ((await failsAt(at, end)) === null) continue;
      for (let block = at; block < end; block += BLOCK) {
        const to = Math.min(end, block + BLOCK);
        const bad = await failsAt(block, to);
        if (bad === null) continue;
        note(bad, to);
        failing += 1;
        if (failing < MAX_FAILING) continue;
        note(to, size);
        return ranges;
      }
    }
    return ranges;
  } finally {
    await handle.close();
  }
}
