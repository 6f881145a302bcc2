import { once } from 'node:events';
import type { PassThrough } from 'node:stream';
import { Readable } from 'node:stream';
import { Injectable } from '@nestjs/common';
import { ZipFile } from 'yazl';
import { Disk } from '../disk/disk';
import { placeStream } from '../disk/placeStream';
import { readChunks } from '../disk/readChunks';

export interface ZipEntry {
  /** a path on this machine */
  file: string;
  /** its name in the zip, with `/` */
  name: string;
  mtimeMillis: number;
}

/** Makes zips of files that are finished: stored, not packed again, since JPEGs do not shrink. */
@Injectable()
export class ZipMaker {
  constructor(private readonly disk: Disk) {}

  /** Writes a zip under a temporary name, flushes it, reads it back, and only then gives it its name; `over`: earlier ones of ours. */
  async make(
    final: string,
    entries: readonly ZipEntry[],
    how: { job: string; over: readonly string[]; signal?: AbortSignal },
  ): Promise<{ sha256: string; size: number }> {
    const zip = new ZipFile();
    const out = zip.outputStream as PassThrough;
    // Times in it are the files' own: made again it has the same bytes.
    for (const { file, name, mtimeMillis } of entries)
      zip.addReadStreamLazy(name, { compress: false, mtime: new Date(mtimeMillis) }, (give) => {
        give(null, Readable.from(readChunks(this.disk, file)));
      });
    void once(zip as unknown as NodeJS.EventEmitter, 'error').then(
      ([error]) => out.destroy(error as Error),
      (error: unknown) => out.destroy(error as Error),
    );
    zip.end();
    return placeStream(this.disk, final, out, how);
  }
}
