import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { HashAnswer, HashOrder } from './hash.worker';
import { sha256Of } from './place';

/**
 * Without instructions for SHA-256 a core takes the checksum of some 200 MB a second (measured), less than a drive
 * gives: hashing bounds an intake, and each core more helps. Above four the drives are the bound.
 */
const THREADS = Math.min(4, availableParallelism());

interface Waiting {
  resolve(sha256: string | null): void;
  reject(error: Error): void;
}

/** A thread and what its streams wait for. */
class HashThread {
  private readonly worker = new Worker(require.resolve('@arkiv/server/dist/disk/hash.worker.js'));
  private readonly waiting = new Map<number, Waiting[]>();
  private count = 0;
  ended = false;

  constructor() {
    this.worker.on('message', ({ stream, sha256 }: HashAnswer) =>
      this.waiting.get(stream)?.shift()?.resolve(sha256),
    );
    this.worker.on('error', (error) => this.end(error));
    this.worker.on('exit', () => this.end(new Error('the thread that takes checksums ended')));
  }

  order(order: HashOrder): Promise<string | null> {
    if (this.ended) return Promise.reject(new Error('the thread that takes checksums ended'));
    return new Promise((resolve, reject) => {
      const list = this.waiting.get(order.stream) ?? [];
      this.waiting.set(order.stream, list);
      list.push({ resolve, reject });
      this.worker.postMessage(order);
    });
  }

  /** Streams that are open on it. */
  get streams(): number {
    return this.count;
  }

  /** While a stream is open the thread keeps the process alive; without one it does not. */
  open(): void {
    this.count += 1;
    this.worker.ref();
  }

  close(stream: number, dropped: boolean): void {
    this.count -= 1;
    if (this.count === 0) this.worker.unref();
    this.waiting.delete(stream);
    if (dropped && !this.ended) this.worker.postMessage({ stream, bytes: null, dropped } satisfies HashOrder);
  }

  private end(error: Error): void {
    this.ended = true;
    for (const list of this.waiting.values()) list.forEach(({ reject }) => reject(error));
    this.waiting.clear();
  }
}

let threads: HashThread[] = [];
let last = 0;

/** The thread with the fewest open streams; a new one as long as all are busy and there may be more. */
function freest(): HashThread {
  threads = threads.filter((thread) => !thread.ended);
  const [least] = [...threads].sort((a, b) => a.streams - b.streams);
  if (least && (least.streams === 0 || threads.length >= THREADS)) return least;
  const thread = new HashThread();
  threads.push(thread);
  return thread;
}

/** SHA-256 of bytes that come one after another, taken outside of the server's own thread. */
export class HashStream {
  private readonly thread = freest();
  private readonly id = ++last;
  private open = true;

  constructor() {
    this.thread.open();
  }

  /** Resolves when the bytes have been read: until then they must stay as they are. */
  async update(bytes: Uint8Array): Promise<void> {
    await this.thread.order({ stream: this.id, bytes });
  }

  /** The checksum in lower-case hexadecimal, 64 digits. */
  async digest(): Promise<string> {
    const sha256 = await this.thread.order({ stream: this.id, bytes: null });
    this.close(false);
    return sha256!;
  }

  /** Lets go of a stream whose checksum nobody needs; after `digest` it does nothing. */
  drop(): void {
    this.close(true);
  }

  private close(dropped: boolean): void {
    if (!this.open) return;
    this.open = false;
    this.thread.close(this.id, dropped);
  }
}

/** Bytes whose checksum takes a millisecond or two: sending them to a thread would take as long. */
const AT_ONCE = 256 * 1024;

/** SHA-256 of bytes that are in memory, in lower-case hexadecimal; of more than a few not in the server's own thread. */
export async function sha256OfMany(bytes: Uint8Array): Promise<string> {
  if (bytes.byteLength <= AT_ONCE) return sha256Of(bytes);
  const hash = new HashStream();
  try {
    await hash.update(bytes);
    return await hash.digest();
  } finally {
    hash.drop();
  }
}
