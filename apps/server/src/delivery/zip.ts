import { once } from 'node:events';
import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { createHash } from 'node:crypto';
import { Disk, type OpenFile } from '../disk/disk';
import { discard, settle } from '../disk/place';
import { temporaryName } from '../disk/temporary';
import { hashFile } from '../disk/verifiedCopy';
import { ArkivError } from '@arkiv/core';

export interface ZipEntry {
  /** a path on this machine */
  file: string;
  /** its name in the zip, with `/` */
  name: string;
  mtimeMillis: number;
}

/** Bytes of a file read at once into the zip. */
const CHUNK = 1024 * 1024;

/** Makes zips of files that are finished: stored, not packed again, since JPEGs do not shrink. */
@Injectable()
export class ZipMaker {
  constructor(private readonly disk: Disk) {}

  /** Writes a zip under a temporary name, flushes it, reads it back, and only then gives it its name. */
  async make(
    final: string,
    entries: readonly ZipEntry[],
    job: string,
    signal: AbortSignal,
    /** checksum of an earlier zip of ours that may be replaced */
    replaces: string | null = null,
  ): Promise<{ sha256: string; size: number }> {
    const temporary = temporaryName(final, job);
    await discard(this.disk, temporary);
    await this.disk.makeFolders(path.dirname(final));
    try {
      const written = await this.write(temporary, entries, signal);
      const back = await hashFile(this.disk, temporary, signal);
      if (back.sha256 !== written.sha256) {
        throw new ArkivError('file.mismatch', {
          file: path.basename(final),
          expected: written.sha256,
          found: back.sha256,
        });
      }
      const there = (await this.disk.facts(final)) ? (await hashFile(this.disk, final, signal)).sha256 : null;
      // A run that was killed after this step has made the same bytes: times in it are the files' own.
      if (there === written.sha256) return written;
      if (there !== null && there === replaces) {
        await this.disk.rename(temporary, final);
        await this.disk.syncFolder(path.dirname(final));
      } else await settle(this.disk, temporary, final);
      return written;
    } finally {
      await discard(this.disk, temporary).catch(() => undefined);
    }
  }

  private async write(
    temporary: string,
    entries: readonly ZipEntry[],
    signal: AbortSignal,
  ): Promise<{ sha256: string; size: number }> {
    const zip = new ZipFile();
    const failed = once(zip as unknown as NodeJS.EventEmitter, 'error').then(([error]) =>
      Promise.reject(error as Error),
    );
    failed.catch(() => undefined);
    for (const entry of entries) {
      zip.addReadStreamLazy(entry.name, { compress: false, mtime: new Date(entry.mtimeMillis) }, (give) => {
        give(null, Readable.from(readChunks(this.disk, entry.file)));
      });
    }
    zip.end();
    const out = await this.disk.createNew(temporary);
    try {
      return await Promise.race([drain(zip.outputStream, out, signal), failed]);
    } finally {
      await out.close();
    }
  }
}

async function drain(
  stream: NodeJS.ReadableStream,
  out: OpenFile,
  signal: AbortSignal,
): Promise<{ sha256: string; size: number }> {
  const hash = createHash('sha256');
  let size = 0;
  for await (const chunk of stream) {
    signal.throwIfAborted();
    const bytes = chunk as Buffer;
    await out.write(bytes, size);
    hash.update(bytes);
    size += bytes.length;
  }
  await out.sync();
  return { sha256: hash.digest('hex'), size };
}

async function* readChunks(disk: Disk, file: string): AsyncGenerator<Buffer> {
  const handle = await disk.openRead(file);
  try {
    for (let position = 0; ;) {
      const buffer = Buffer.alloc(CHUNK);
      const got = await handle.read(buffer, position);
      if (got === 0) return;
      position += got;
      yield buffer.subarray(0, got);
    }
  } finally {
    await handle.close();
  }
}
