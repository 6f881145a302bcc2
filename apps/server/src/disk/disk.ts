import { lookAtMount, probePlace, type LookOrder, type MountLook, type Probe } from './mounts/look';
import type { Space } from './space';

export type { Space };

/** A path on this machine. Names that are not UTF-8 come as bytes. */
export type DiskPath = string | Buffer;

export interface FileFacts {
  kind: 'file' | 'folder' | 'link' | 'other';
  /** bytes */
  size: number;
  mtimeMillis: number;
  /** number of the device that holds it */
  device: number;
  /** its number there: two paths of equal device and inode are one file */
  inode: number;
}

export interface OpenFile {
  /** Reads into `target` at `position`; returns the bytes read, 0 at the end. */
  read(target: Uint8Array, position: number): Promise<number>;
  /** Writes all of `source` at `position`. */
  write(source: Uint8Array, position: number): Promise<void>;
  /** Returns when the bytes are on the device, not only in memory. */
  sync(): Promise<void>;
  facts(): Promise<FileFacts>;
  close(): Promise<void>;
}

/**
 * The one seam to the disk. Every read and write of the server goes through it, so that faults can be played on
 * each operation by wrapping it. Errors are Node's own, with their `code`.
 */
export abstract class Disk {
  abstract openRead(path: DiskPath, options?: { pastCache?: boolean }): Promise<OpenFile>;
  /** Makes a file that was not there (EEXIST otherwise). */
  abstract createNew(path: string, mode?: number): Promise<OpenFile>;
  /** Opens a file that is being received, to go on writing it (ENOENT where there is none). */
  abstract openAgain(path: string): Promise<OpenFile>;
  /** A second name for a file; fails with EEXIST where `to` is taken. */
  abstract link(from: string, to: string): Promise<void>;
  /** Replaces `to` silently: only for our own text, and where links are refused. */
  abstract rename(from: string, to: string): Promise<void>;
  abstract unlink(path: DiskPath): Promise<void>;
  /** Removes a folder that holds nothing; one that holds anything stays, which is no error. Whether it is gone. */
  abstract removeEmptyFolder(path: DiskPath): Promise<boolean>;
  abstract makeFolders(path: string): Promise<void>;
  /** Makes the names in a folder durable. */
  abstract syncFolder(path: DiskPath): Promise<void>;
  /** Facts of the path itself; links are not followed. Null where there is nothing. */
  abstract facts(path: DiskPath): Promise<FileFacts | null>;
  abstract realPath(path: string): Promise<string>;
  /** Names in a folder as bytes, in no order. */
  abstract names(path: DiskPath): Promise<Buffer[]>;
  abstract space(path: string): Promise<Space>;
  /** Whether the folder can be written to; false on a drive that is mounted or locked for reading only. */
  abstract writable(path: string): Promise<boolean>;
  /** Sets the time of its last change: to now, or to `millis` since 1970 UTC. */
  abstract touch(path: string, millis?: number): Promise<void>;
  /**
   * Says each name in a folder that is made, changed or taken away, null where the system does not say which; until the
   * function that it returns is called. Null where the folder cannot be watched.
   */
  abstract watch(folder: string, onName: (name: string | null) => void): (() => void) | null;
  abstract symlink(target: string, path: string): Promise<void>;

  /** What the place of a drive says of itself. Where the system can hang, with a time limit: ETIMEDOUT. */
  probe(root: string, ownFile: string): Promise<Probe> {
    return probePlace(this, root, ownFile);
  }

  /** What a mounted file system is. With a time limit as `probe`. */
  lookAt(order: LookOrder): Promise<MountLook> {
    return lookAtMount(this, order);
  }

  /** Lets go of what looking needed. */
  close(): void {}

  /** A whole file. Throws RangeError above `limit` bytes. */
  async readAll(path: DiskPath, limit: number): Promise<Buffer> {
    const file = await this.openRead(path);
    try {
      const { size } = await file.facts();
      if (size > limit) throw new RangeError(`expected at most ${limit} bytes, found ${size}`);
      return await readFully(file, 0, size);
    } finally {
      await file.close();
    }
  }

  /** `length` bytes from `position`, fewer at the file's end. */
  async readPart(path: DiskPath, position: number, length: number): Promise<Buffer> {
    const file = await this.openRead(path);
    try {
      return await readFully(file, position, length);
    } finally {
      await file.close();
    }
  }
}

async function readFully(file: OpenFile, position: number, length: number): Promise<Buffer> {
  const target = Buffer.alloc(length);
  let done = 0;
  while (done < length) {
    const got = await file.read(target.subarray(done), position + done);
    if (got === 0) break;
    done += got;
  }
  return target.subarray(0, done);
}

/** The error code of a failed disk operation, or null when it is none. */
export function diskErrorCode(error: unknown): string | null {
  const code = (error as { code?: unknown } | null)?.code;
  return typeof code === 'string' && /^E[A-Z0-9]+$/.test(code) ? code : null;
}
