import { createHash } from 'node:crypto';
import path from 'node:path';
import { Readable, Transform } from 'node:stream';
import { heard } from './stall';
import { RemoteError, type Remote } from './remote';

export interface PutOrder {
  /** of the bytes from a position on */
  read: (from: number) => AsyncIterable<Uint8Array>;
  size: number;
  sha256: string;
  /** below the destination's folder */
  to: string;
  /** tells what it has begun from what others have */
  job: string;
  onBytes: (bytes: number) => void;
}

export interface Put {
  /** it lay there already, whole */
  already: boolean;
  /** from where it was gone on with after a cut; 0: from its beginning */
  from: number;
}

/** The name that a file has until it is whole. */
export const partName = (to: string, job: string): string =>
  path.posix.join(path.posix.dirname(to), `.${path.posix.basename(to)}.${job}.part`);

/**
 * Copies a file to a destination: under a name of its own first, gone on with where a cut left it, read back from there, compared, and
 * only then under its final name. Nothing that lies there is written over; what lies there and is the same counts as done.
 */
export async function putProven(remote: Remote, order: PutOrder): Promise<Put> {
  const { size, sha256, to, job } = order;
  const there = await remote.size(to);
  if (there !== null) {
    if (there === size && (await remote.sha256(to)) === sha256) return { already: true, from: 0 };
    throw new RemoteError('exists', `${to} lies there already, and holds something else`);
  }
  await remote.makeFolder(path.posix.dirname(to));
  const part = partName(to, job);
  const begun = await remote.size(part);
  const goesOn = begun !== null && remote.appends && begun <= size;
  if (begun !== null && !goesOn) await remote.remove(part);
  const from = goesOn ? begun : 0;
  if (from < size || !goesOn) await remote.write(part, from, counted(order, from), size - from);
  const arrived = await remote.size(part);
  if (arrived !== size) throw new RemoteError('away', `of ${to} ${arrived ?? 0} of ${size} bytes arrived`);
  if ((await remote.sha256(part)) !== sha256) {
    await remote.remove(part);
    const own = await hashOf(order.read(0));
    throw own === sha256
      ? new RemoteError('changed', `${to} arrived otherwise than it was sent`)
      : new RemoteError('source', `${to} is not what was made any more`);
  }
  await remote.rename(part, to);
  if ((await remote.size(to)) !== size) throw new RemoteError('failed', `${to} is not there under its name`);
  return { already: false, from };
}

/** The bytes from a position on, told as they go by. */
function counted({ read, onBytes }: PutOrder, from: number): Readable {
  const source = Readable.from(read(from), { objectMode: false, highWaterMark: 1024 * 1024 });
  const count = new Transform({
    transform(bytes: Buffer, _encoding, done) {
      heard();
      onBytes(bytes.length);
      done(null, bytes);
    },
  });
  // What breaks off the reading breaks off the writing.
  source.on('error', (error) => count.destroy(error));
  return source.pipe(count);
}

export async function hashOf(bytes: AsyncIterable<Uint8Array>): Promise<string> {
  const hash = createHash('sha256');
  for await (const part of bytes) {
    heard();
    hash.update(part);
  }
  return hash.digest('hex');
}
