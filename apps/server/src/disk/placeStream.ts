import path from 'node:path';
import { ArkivError } from '@arkiv/core';
import type { Disk } from './disk';
import { HashStream } from './hashing';
import { discard, settle } from './place';
import { temporaryName } from './temporary';
import { hashFile } from './verifiedCopy';

/**
 * Writes what comes, larger than memory should hold: temporary name, flush, read back past the page cache, compare, final name. A file
 * that lies there already stays where it is the same, and is replaced where its checksum is one of `over`: ours of before. Throws
 * `file.exists` for any other.
 */
export async function placeStream(
  disk: Disk,
  final: string,
  stream: AsyncIterable<Uint8Array>,
  { job, over, signal }: { job: string; over: readonly string[]; signal?: AbortSignal },
): Promise<{ sha256: string; size: number }> {
  const temporary = temporaryName(final, job);
  await discard(disk, temporary);
  await disk.makeFolders(path.dirname(final));
  try {
    const written = await write(disk, temporary, stream, signal);
    const back = await hashFile(disk, temporary, signal);
    if (back.sha256 !== written.sha256)
      throw new ArkivError('file.mismatch', {
        ...{ file: path.basename(final), expected: written.sha256, found: back.sha256 },
      });
    const there = (await disk.facts(final)) ? (await hashFile(disk, final, signal)).sha256 : null;
    // A run that was killed after this step has made the same bytes.
    if (there === written.sha256) return written;
    if (there !== null && over.includes(there)) {
      await disk.rename(temporary, final);
      await disk.syncFolder(path.dirname(final));
    } else await settle(disk, temporary, final);
    return written;
  } finally {
    await discard(disk, temporary).catch(() => undefined);
  }
}

async function write(
  disk: Disk,
  temporary: string,
  stream: AsyncIterable<Uint8Array>,
  signal?: AbortSignal,
): Promise<{ sha256: string; size: number }> {
  const out = await disk.createNew(temporary);
  const hash = new HashStream();
  // A part's checksum is taken while the next one is written, outside of the server's own thread.
  let hashed: Promise<void> = Promise.resolve();
  let size = 0;
  try {
    for await (const bytes of stream) {
      signal?.throwIfAborted();
      await Promise.all([out.write(bytes, size), hashed]);
      hashed = hash.update(bytes);
      // Its failure is met with the next part, or at the end.
      hashed.catch(() => undefined);
      size += bytes.length;
    }
    await hashed;
    await out.sync();
    return { sha256: await hash.digest(), size };
  } finally {
    hash.drop();
    await out.close();
  }
}
