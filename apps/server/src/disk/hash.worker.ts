// One thread that takes checksums. Messages of a stream are worked off in the order in which they came.
import { createHash, type Hash } from 'node:crypto';
import { parentPort } from 'node:worker_threads';

export interface HashOrder {
  stream: number;
  /** the next bytes; null: no more, the checksum is wanted */
  bytes: Uint8Array | null;
  /** nobody wants this stream's checksum any more */
  dropped?: boolean;
}

export interface HashAnswer {
  stream: number;
  /** lower-case hexadecimal, or null: these bytes have been read and may be written over */
  sha256: string | null;
}

const open = new Map<number, Hash>();

parentPort!.on('message', ({ stream, bytes, dropped }: HashOrder) => {
  const hash = open.get(stream) ?? createHash('sha256');
  if (bytes) {
    open.set(stream, hash.update(bytes));
    parentPort!.postMessage({ stream, sha256: null } satisfies HashAnswer);
    return;
  }
  open.delete(stream);
  if (!dropped) parentPort!.postMessage({ stream, sha256: hash.digest('hex') } satisfies HashAnswer);
});
