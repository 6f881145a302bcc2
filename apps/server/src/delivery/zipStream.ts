import { Readable, type PassThrough } from 'node:stream';
import { crc32 } from 'node:zlib';
import checksum from 'buffer-crc32';
import { ZipFile } from 'yazl';

// The library takes CRC-32 by a table, at a quarter of the speed of Node's own: it gets that one.
Object.assign(checksum, { unsigned: (bytes: Buffer, before?: number) => crc32(bytes, before ?? 0) });

/** A file of a zip, whose bytes are asked for when its turn comes. */
export interface ZipPart {
  name: string;
  mtimeMillis: number;
  /** bytes; missing: not known before */
  size?: number;
  chunks: () => AsyncIterable<Buffer>;
}

/**
 * A zip that is made while it is read, not compressed, with the files' own times: made again it has the same bytes. A file that cannot
 * be read to its end breaks the stream off with what went wrong; where the stream is given up, no file stays open. `size`: bytes of the
 * whole zip, where those of all its files are known.
 */
export function zipStream(parts: readonly ZipPart[]): { stream: Readable; size: Promise<number> } {
  const zip = new ZipFile();
  const out = zip.outputStream as PassThrough;
  let open: Readable | null = null;
  out.on('close', () => open?.destroy());
  // The library listens to no stream that it is given: one that fails would end the whole server.
  (zip as unknown as NodeJS.EventEmitter).on('error', (error: Error) => out.destroy(error));
  for (const { name, mtimeMillis, size, chunks } of parts)
    zip.addReadStreamLazy(name, { compress: false, size, mtime: new Date(mtimeMillis) }, (give) => {
      open = Readable.from(chunks());
      open.on('error', (error) => out.destroy(error));
      give(null, open);
    });
  const size = new Promise<number>((resolve) =>
    zip.end({ forceZip64Format: false, comment: '' }, resolve as () => void),
  );
  return { stream: out, size };
}
