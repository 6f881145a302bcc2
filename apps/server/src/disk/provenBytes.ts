import path from 'node:path';
import { ArkivError } from '@arkiv/core';
import { diskErrorCode, type Disk, type DiskPath } from './disk';
import { sha256OfMany } from './hashing';
import { discard, settle } from './place';
import { temporaryName } from './temporary';
import { hashFile, SourceError } from './verifiedCopy';

/** Bytes of a picture that is read whole: two gigabytes hold any JPEG (65,535 pixels each way), and TIFFs of 300 megapixels. */
const MOST_BYTES = 2 ** 31;

/** A picture's file as a whole, proven. Throws {@link SourceError} where it cannot be read, or is not what it should be. */
export async function readProven(
  disk: Disk,
  file: DiskPath,
  expected: string,
  name: string,
): Promise<Buffer> {
  let bytes: Buffer;
  try {
    bytes = await disk.readAll(file, MOST_BYTES);
  } catch (error) {
    throw new SourceError(error, 0);
  }
  const found = await sha256OfMany(bytes);
  if (found !== expected)
    throw new SourceError(new ArkivError('file.mismatch', { file: name, expected, found }), 0);
  return bytes;
}

/** A file that lies there with other content than was expected: nothing was changed. */
export class OtherContent extends Error {}

/**
 * Writes a file from memory: temporary name, flush, read back past the page cache, compare, final name. Where a file lies there
 * already, its checksum must be one of `over`, or what is written: ours takes its place as a whole. Throws {@link OtherContent}
 * otherwise. Returns the checksum of what lies there then.
 */
export async function placeProven(
  disk: Disk,
  final: string,
  bytes: Uint8Array,
  { job, over, signal }: { job: string; over: readonly string[]; signal?: AbortSignal },
): Promise<string> {
  // That of a large file is taken while it is written.
  const hashing = sha256OfMany(bytes);
  hashing.catch(() => undefined);
  const seen = (await disk.facts(final)) === null ? null : (await hashFile(disk, final, signal)).sha256;
  const temporary = temporaryName(final, job);
  if (seen !== null && seen === (await hashing)) {
    // A run that was killed right after it gave the file its name has left the temporary one, and the folder not flushed.
    await discard(disk, temporary);
    await disk.syncFolder(path.dirname(final));
    return seen;
  }
  if (seen !== null && !over.includes(seen)) throw new OtherContent(path.basename(final));
  await disk.makeFolders(path.dirname(final));
  await discard(disk, temporary);
  try {
    const file = await disk.createNew(temporary);
    try {
      await file.write(bytes, 0);
      await file.sync();
    } finally {
      await file.close();
    }
    const sha256 = await hashing;
    const back = await hashFile(disk, temporary, signal);
    if (back.sha256 !== sha256)
      throw new ArkivError('file.mismatch', {
        file: path.basename(final),
        expected: sha256,
        found: back.sha256,
      });
    if (seen === null) await settle(disk, temporary, final);
    else {
      // What lies there is looked at again: while ours was written, somebody may have saved theirs.
      if ((await hashFile(disk, final, signal)).sha256 !== seen) throw new OtherContent(path.basename(final));
      await disk.rename(temporary, final);
      await disk.syncFolder(path.dirname(final));
    }
    return sha256;
  } catch (error) {
    await discard(disk, temporary).catch((left: unknown) => {
      if (diskErrorCode(left) === null) throw left;
    });
    throw error;
  }
}
