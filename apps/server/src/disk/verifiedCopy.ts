import path from 'node:path';
import { ArkivError } from '@arkiv/core';
import { BufferPool } from './aligned';
import { diskErrorCode, type Disk, type DiskPath, type OpenFile } from './disk';
import { HashStream } from './hashing';
import { discard, settle } from './place';
import { temporaryName } from './temporary';

/**
 * Bytes read at once: 4 MiB was the size from which larger ones brought nothing (measured on ext4 with
 * 10–30 MB files); it is a multiple of every device's block, as reading past the cache demands.
 */
export const CHUNK = 4 * 1024 * 1024;
const pool = new BufferPool(CHUNK);

export interface CopyTarget {
  id: string;
  /** final path on this machine */
  final: string;
}

export type TargetResult =
  { id: string; ok: true; pastCache: boolean } | { id: string; ok: false; error: unknown };

export interface CopyResult {
  sha256: string;
  size: number;
  targets: TargetResult[];
}

export interface CopyOptions {
  job: string;
  /** called with bytes as they are read */
  onBytes?: (bytes: number) => void;
  /** expected checksum of the source, where it is known */
  expected?: string;
  /** says, once the source is hashed, whether the copies are wanted; otherwise they are dropped while temporary */
  wanted?: (sha256: string) => Promise<boolean>;
  signal?: AbortSignal;
}

/** Thrown when the source cannot be read; targets keep nothing of it. */
export class SourceError extends Error {
  constructor(
    readonly reason: unknown,
    readonly position: number,
  ) {
    super(`source failed at byte ${position}: ${(reason as Error).message}`);
  }
}

/**
 * Copies a file to any number of targets in one reading: SHA-256 while copying, flush, read back past the page
 * cache where the system allows it, compare, final name. A target that fails does not stop the others. A final
 * name that is there already counts as done when its content is equal, and as a failure when it is not.
 */
export async function verifiedCopy(
  disk: Disk,
  source: DiskPath,
  targets: readonly CopyTarget[],
  options: CopyOptions,
): Promise<CopyResult> {
  const writers = await Promise.all(targets.map((target) => TargetWriter.open(disk, target, options.job)));
  try {
    const { sha256, size } = await pump(disk, source, writers, options);
    if (options.expected && options.expected !== sha256) {
      throw new SourceError(
        new ArkivError('file.mismatch', {
          file: path.basename(String(source)),
          expected: options.expected,
          found: sha256,
        }),
        0,
      );
    }
    const wanted = options.wanted ? await options.wanted(sha256) : true;
    if (!wanted) return { sha256, size, targets: [] };
    const results = await Promise.all(writers.map((writer) => writer.finish(sha256, size, options.signal)));
    return { sha256, size, targets: results };
  } finally {
    await Promise.all(writers.map((writer) => writer.cleanUp()));
  }
}

/** SHA-256 of a file, read past the page cache where possible. */
export async function hashFile(
  disk: Disk,
  file: DiskPath,
  signal?: AbortSignal,
): Promise<{ sha256: string; pastCache: boolean; size: number }> {
  try {
    return { ...(await hashFrom(disk, file, true, signal)), pastCache: true };
  } catch (error) {
    // File systems without direct reading answer EINVAL or EOPNOTSUPP.
    if (!['EINVAL', 'EOPNOTSUPP', 'ENOTSUP'].includes(diskErrorCode(error) ?? '')) throw error;
    return { ...(await hashFrom(disk, file, false, signal)), pastCache: false };
  }
}

async function hashFrom(
  disk: Disk,
  file: DiskPath,
  pastCache: boolean,
  signal?: AbortSignal,
): Promise<{ sha256: string; size: number }> {
  const handle = await disk.openRead(file, { pastCache });
  const hash = new HashStream();
  const buffers = [pool.borrow(), pool.borrow()] as const;
  let hashed: Promise<void> = Promise.resolve();
  try {
    let position = 0;
    let turn = 0;
    let reading = handle.read(buffers[0], 0);
    for (;;) {
      const got = await reading;
      // The other buffer is free only when its bytes are in the checksum.
      await hashed;
      signal?.throwIfAborted();
      if (got === 0) break;
      position += got;
      hashed = hash.update(buffers[turn]!.subarray(0, got));
      // Its failure is met above or at the end, not while the next bytes are read.
      hashed.catch(() => undefined);
      turn = 1 - turn;
      // A direct read must begin at a block; a short read is the file's end.
      if (got < CHUNK) break;
      reading = handle.read(buffers[turn]!, position);
    }
    // A failing device gives what stands before the bad place and no more: that is not the file's end.
    const { size } = await handle.facts();
    if (position < size)
      throw Object.assign(new Error(`EIO: reading ended at byte ${position} of ${size}`), { code: 'EIO' });
    return { sha256: await hash.digest(), size: position };
  } finally {
    await hashed.catch(() => undefined);
    hash.drop();
    await handle.close();
    buffers.forEach((b) => pool.giveBack(b));
  }
}

async function pump(
  disk: Disk,
  source: DiskPath,
  writers: readonly TargetWriter[],
  options: CopyOptions,
): Promise<{ sha256: string; size: number }> {
  let position = 0;
  const buffers = [pool.borrow(), pool.borrow()] as const;
  let handle: OpenFile | undefined;
  const hash = new HashStream();
  try {
    handle = await disk.openRead(source);
    const before = await handle.facts();
    let turn = 0;
    let got = await handle.read(buffers[0], 0);
    while (got > 0) {
      options.signal?.throwIfAborted();
      const full = buffers[turn]!.subarray(0, got);
      const at = position;
      position += got;
      turn = 1 - turn;
      // The next reading overlaps with writing and hashing; its failure is kept until they are done.
      const next = handle.read(buffers[turn]!, position).then(
        (n) => ({ n, error: null }),
        (error: unknown) => ({ n: 0, error }),
      );
      const writing = writers.map((writer) => writer.write(full, at));
      const [hashed] = await Promise.allSettled([hash.update(full), ...writing]);
      options.onBytes?.(got);
      const outcome = await next;
      if (hashed.status === 'rejected') throw hashed.reason;
      if (outcome.error) throw outcome.error;
      got = outcome.n;
    }
    const after = await handle.facts();
    if (position !== before.size || after.mtimeMillis !== before.mtimeMillis) {
      throw new Error(`expected ${before.size} bytes, found ${position}: the file changed or ended early`);
    }
    return { sha256: await hash.digest(), size: position };
  } catch (error) {
    if (options.signal?.aborted) throw error;
    throw new SourceError(error, position);
  } finally {
    hash.drop();
    await handle?.close();
    buffers.forEach((b) => pool.giveBack(b));
  }
}

class TargetWriter {
  private file: OpenFile | null = null;
  private error: unknown = null;
  private alreadyThere = false;

  private constructor(
    private readonly disk: Disk,
    private readonly target: CopyTarget,
    private readonly temporary: string,
  ) {}

  static async open(disk: Disk, target: CopyTarget, job: string): Promise<TargetWriter> {
    const writer = new TargetWriter(disk, target, temporaryName(target.final, job));
    try {
      if (await disk.facts(target.final)) {
        writer.alreadyThere = true;
        // A run that was killed between its final name and taking away the other one.
        await discard(disk, writer.temporary);
      } else {
        await disk.makeFolders(path.dirname(target.final));
        await discard(disk, writer.temporary);
        writer.file = await disk.createNew(writer.temporary);
      }
    } catch (error) {
      writer.error = error;
    }
    return writer;
  }

  async write(bytes: Uint8Array, position: number): Promise<void> {
    if (!this.file || this.error) return;
    try {
      await this.file.write(bytes, position);
    } catch (error) {
      this.error = error;
    }
  }

  async finish(sha256: string, size: number, signal?: AbortSignal): Promise<TargetResult> {
    const { id, final } = this.target;
    try {
      if (this.error) throw this.error;
      if (this.alreadyThere) {
        const there = await hashFile(this.disk, final, signal);
        if (there.sha256 !== sha256) throw new ArkivError('file.exists', { file: path.basename(final) });
        // Whoever put it there may not have flushed it, and its name may not be durable yet.
        await flushed(this.disk, final);
        return { id, ok: true, pastCache: there.pastCache };
      }
      await this.file!.sync();
      await this.file!.close();
      this.file = null;
      const back = await hashFile(this.disk, this.temporary, signal);
      if (back.sha256 !== sha256 || back.size !== size) {
        throw new ArkivError('file.mismatch', {
          file: path.basename(final),
          expected: sha256,
          found: back.sha256,
        });
      }
      await settle(this.disk, this.temporary, final);
      return { id, ok: true, pastCache: back.pastCache };
    } catch (error) {
      if (signal?.aborted) throw error;
      return { id, ok: false, error };
    }
  }

  /** Closes and removes what is left under the temporary name; a target that is gone has nothing to remove. */
  async cleanUp(): Promise<void> {
    await this.file?.close().catch(() => undefined);
    this.file = null;
    if (!this.alreadyThere) await discard(this.disk, this.temporary).catch(() => undefined);
  }
}

async function flushed(disk: Disk, file: string): Promise<void> {
  const handle = await disk.openRead(file);
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
  await disk.syncFolder(path.dirname(file));
}
