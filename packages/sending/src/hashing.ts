import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** Bytes that are read in one go: enough that reading costs little, few enough for a telephone. */
const PIECE = 4 * 1024 * 1024;

interface Asked {
  id: number;
  file: Blob;
}
export type Hashed = { id: number; sha256: string } | { id: number; error: string };

/** What a worker that reads files does: SHA-256 of each, piece by piece; one at a time, in the order in which they were asked for. */
export function answerHashes(): void {
  let turn: Promise<unknown> = Promise.resolve();
  addEventListener('message', ({ data: { id, file } }: MessageEvent<Asked>) => {
    turn = turn.then(async () => {
      try {
        const hash = sha256.create();
        for (let at = 0; at < file.size; at += PIECE)
          hash.update(new Uint8Array(await file.slice(at, at + PIECE).arrayBuffer()));
        postMessage({ id, sha256: bytesToHex(hash.digest()) } satisfies Hashed);
      } catch (error) {
        postMessage({ id, error: (error as Error).message } satisfies Hashed);
      }
    });
  });
}
