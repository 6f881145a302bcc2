import { Injectable } from '@nestjs/common';
import { Disk } from '../disk/disk';
import { placeStream } from '../disk/placeStream';
import { readChunks } from '../disk/readChunks';
import { zipStream } from './zipStream';

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
    const { stream } = zipStream(
      entries.map(({ file, name, mtimeMillis }) => ({
        ...{ name, mtimeMillis, chunks: () => readChunks(this.disk, file) },
      })),
    );
    return placeStream(this.disk, final, stream, how);
  }
}
