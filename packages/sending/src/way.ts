import { defaultOptions, Upload } from 'tus-js-client';
import type { Hashed } from './hashing';
import type { ChosenFile, Way } from './uploadQueue';

/** Bytes of a request: a cut loses at most these, and a proxy in between takes them. */
const PIECE = 8 * 1024 * 1024;
/** Milliseconds before each try after a cut; the last is repeated by pressing. A server that restarts is back within the third. */
const TRIES = [0, 1000, 3000, 5000, 10_000, 20_000, 30_000];

/** What differs between those who send: the studio's own pages, and those of a link. */
export interface Other {
  /** where files are sent to by the tus protocol */
  endpoint: string;
  headers: Record<string, string>;
  /** a worker that answers by `answerHashes` */
  worker: () => Worker;
  /** tells the other side what was sent; rejects with its words where that is not what it has */
  prove: Way['prove'];
  whole: Way['whole'];
}

/** A way to the other side: checksums made in a worker, files sent by the tus protocol (tus.io), each proven there. */
export function wayTo({ endpoint, headers, worker: start, prove, whole }: Other): Way {
  let worker: Worker | null = null;
  let asked = 0;
  const waiting = new Map<number, (said: Hashed) => void>();
  /** what was sent and is not proven yet, by its id on the other side */
  const sent = new Map<string, Upload>();

  function hash(file: File): Promise<string> {
    if (worker === null) {
      worker = start();
      worker.addEventListener('message', ({ data }: MessageEvent<Hashed>) => {
        waiting.get(data.id)?.(data);
        waiting.delete(data.id);
      });
    }
    const id = ++asked;
    worker.postMessage({ id, file });
    return new Promise((resolve, reject) => {
      waiting.set(id, (said) =>
        'sha256' in said
          ? resolve(said.sha256)
          : reject(new Error(`It cannot be read: ${said.error}. Is it still there?`)),
      );
    });
  }

  function send(
    upload: string,
    { path, file }: ChosenFile,
    onSent: (bytes: number) => void,
    signal: AbortSignal,
  ): Promise<string> {
    return new Promise((resolve, reject) => {
      const sending = new Upload(file, {
        ...{
          endpoint,
          headers,
          chunkSize: PIECE,
          retryDelays: TRIES,
          metadata: { upload, path, modified: String(file.lastModified) },
        },
        // What it is known by here when it is chosen again, after a reload too.
        fingerprint: () => Promise.resolve(`arkiv ${upload} ${path} ${file.size} ${file.lastModified}`),
        onProgress: onSent,
        onSuccess: () => {
          const id = sending.url!.split('-').at(-1)!;
          sent.set(id, sending);
          resolve(id);
        },
        onError: (error) => reject(new Error(wordsOf(error))),
      });
      signal.addEventListener('abort', () => {
        void sending.abort();
        reject(new Error('It was stopped.'));
      });
      void sending.findPreviousUploads().then(([before]) => {
        if (before) sending.resumeFromPreviousUpload(before);
        if (!signal.aborted) sending.start();
      });
    });
  }

  return {
    hash,
    send,
    whole,
    prove: async (upload, id, sha256) => {
      await prove(upload, id, sha256);
      // Only now nothing of it need be known here: where the proof did not come, it is asked for again and nothing is sent.
      for (const { urlStorageKey } of (await sent.get(id)?.findPreviousUploads()) ?? [])
        await defaultOptions.urlStorage.removeUpload(urlStorageKey);
      sent.delete(id);
    },
  };
}

/** What the server said of it, in its words; else that it could not be reached. */
function wordsOf(error: Error): string {
  const { originalResponse } = error as Error & { originalResponse?: { getBody(): string } | null };
  try {
    const { message, next } = JSON.parse(originalResponse?.getBody() ?? '') as {
      message: string;
      next: string;
    };
    return `${message} ${next}`;
  } catch {
    return 'The archive cannot be reached. What has come of it stays there: try again.';
  }
}
