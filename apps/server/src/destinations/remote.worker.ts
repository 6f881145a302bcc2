// Speaks to destinations in a process of its own: what encrypting and checksums cost holds nobody up, and what a server sends can
// take nothing else along.
import { createHash, randomBytes } from 'node:crypto';
import { Readable } from 'node:stream';
import { worker, workerEmit } from 'workerpool';
import { NodeDisk } from '../disk/nodeDisk';
import { FolderRemote } from './remote/folderRemote';
import { putProven, type Put } from './remote/put';
import { RemoteError, type Remote, type RemoteTrouble, type Target } from './remote/remote';
import { unlessSilent } from './remote/stall';
import { SftpRemote } from './remote/sftpRemote';
import { WebdavRemote } from './remote/webdavRemote';

process.on('error', () => process.exit());
process.on('disconnect', () => process.exit());

const disk = new NodeDisk();

export interface SendOrder {
  /** a path on this machine */
  file: string;
  size: number;
  sha256: string;
  to: string;
  job: string;
}

export type Said<T> = { ok: true; value: T } | { ok: false; trouble: RemoteTrouble; message: string };

/** What a destination says of itself when it is asked whether it can be used. */
export interface Checked {
  /** of a server that nobody has trusted yet: its key, and nothing else was asked of it; null: it was written to and read from */
  key: string | null;
}

/** Bytes read at once: what a fast line takes in some milliseconds. */
const CHUNK = 1024 * 1024;
/** Milliseconds between two words about bytes that went by. */
const SAID_EVERY = 100;
/** Milliseconds for which a connection that nobody needs is kept: between two files of a set there are some hundredths of a second. */
const KEPT_FOR = 10_000;

let open: { key: string; remote: Remote; timer: NodeJS.Timeout } | null = null;

async function connect(target: Target): Promise<Remote> {
  switch (target.kind) {
    case 'folder':
      return FolderRemote.open(disk, target.path);
    case 'webdav':
      return WebdavRemote.open(target);
    case 'sftp':
      return SftpRemote.open(target);
  }
}

/** Works over a connection, which is kept a while; after a failure it is another one. */
async function over<T>(target: Target, work: (remote: Remote) => Promise<T>): Promise<Said<T>> {
  const key = JSON.stringify(target);
  const done = await said(async () => {
    if (open && open.key !== key) await close();
    if (open) clearTimeout(open.timer);
    const remote = open?.remote ?? (await connect(target));
    open = { key, remote, timer: setTimeout(() => undefined, 0) };
    const value = await unlessSilent(work(remote));
    open.timer = setTimeout(() => void close(), KEPT_FOR);
    return value;
  });
  if (!done.ok) await close();
  return done;
}

/** What came of it, as it goes to the other process. */
async function said<T>(work: () => Promise<T>): Promise<Said<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    if (error instanceof RemoteError) return { ok: false, trouble: error.trouble, message: error.message };
    return { ok: false, trouble: 'failed', message: (error as Error).message.split('\n')[0]! };
  }
}

async function close(): Promise<void> {
  const its = open;
  open = null;
  if (!its) return;
  clearTimeout(its.timer);
  await its.remote.end().catch(() => undefined);
}

/** Writes a small file there, reads it back and takes it away. */
const check = async (target: Target): Promise<Said<Checked>> => {
  if (target.kind === 'sftp' && target.hostKey === null)
    return said(async () => ({ key: await SftpRemote.keyOf(target) }));
  return over(target, async (remote) => {
    const bytes = randomBytes(64);
    const name = `.arkiv-${bytes.toString('hex', 0, 8)}`;
    await remote.write(name, 0, Readable.from([bytes], { objectMode: false }), bytes.length);
    try {
      if ((await remote.sha256(name)) !== createHash('sha256').update(bytes).digest('hex'))
        throw new RemoteError('changed', 'what was written there came back otherwise');
    } finally {
      await remote.remove(name);
    }
    return { key: null };
  });
};

const put = (target: Target, { file, size, sha256, to, job }: SendOrder): Promise<Said<Put>> =>
  over(target, async (remote) => {
    let passed = 0;
    let saidAt = 0;
    return putProven(remote, {
      ...{ size, sha256, to, job },
      read: (from) => read(file, from),
      onBytes: (bytes) => {
        passed += bytes;
        const now = performance.now();
        if (now - saidAt < SAID_EVERY) return;
        workerEmit(passed);
        [passed, saidAt] = [0, now];
      },
    });
  });

async function* read(file: string, from: number): AsyncGenerator<Buffer> {
  const source = await disk.openRead(file).catch((error: Error) => {
    throw new RemoteError('source', `it cannot be read here: ${error.message}`);
  });
  try {
    for (let at = from; ;) {
      const buffer = Buffer.allocUnsafe(CHUNK);
      const got = await source.read(buffer, at);
      if (got === 0) return;
      at += got;
      yield buffer.subarray(0, got);
    }
  } finally {
    await source.close();
  }
}

worker({ check, put });
