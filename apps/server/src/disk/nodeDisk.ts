import { constants, promises as fs, watch, type Stats } from 'node:fs';
import type { FileHandle } from 'node:fs/promises';
import { Disk, type DiskPath, type FileFacts, type OpenFile, type Space } from './disk';
import type { LookOrder, MountLook, Probe } from './mounts/look';
import { Looker } from './mounts/looker';

function factsOf(stats: Stats): FileFacts {
  const kind = stats.isFile()
    ? 'file'
    : stats.isDirectory()
      ? 'folder'
      : stats.isSymbolicLink()
        ? 'link'
        : 'other';
  return {
    kind,
    size: stats.size,
    mtimeMillis: Math.floor(stats.mtimeMs),
    device: stats.dev,
    inode: stats.ino,
  };
}

class NodeFile implements OpenFile {
  constructor(private readonly handle: FileHandle) {}

  async read(target: Uint8Array, position: number): Promise<number> {
    const { bytesRead } = await this.handle.read(target, 0, target.byteLength, position);
    return bytesRead;
  }

  async write(source: Uint8Array, position: number): Promise<void> {
    let done = 0;
    while (done < source.byteLength) {
      const { bytesWritten } = await this.handle.write(
        source,
        done,
        source.byteLength - done,
        position + done,
      );
      done += bytesWritten;
    }
  }

  sync(): Promise<void> {
    return this.handle.sync();
  }

  async facts(): Promise<FileFacts> {
    return factsOf(await this.handle.stat());
  }

  close(): Promise<void> {
    return this.handle.close();
  }
}

/** The real disk. */
export class NodeDisk extends Disk {
  private readonly looker = new Looker();

  async openRead(path: DiskPath, options?: { pastCache?: boolean }): Promise<OpenFile> {
    const flags = constants.O_RDONLY | (options?.pastCache ? (constants.O_DIRECT ?? 0) : 0);
    if (options?.pastCache && !constants.O_DIRECT) {
      throw Object.assign(new Error('this system cannot read past the cache'), { code: 'EINVAL' });
    }
    return new NodeFile(await fs.open(path, flags));
  }

  async createNew(path: string, mode = 0o644): Promise<OpenFile> {
    return new NodeFile(await fs.open(path, constants.O_RDWR | constants.O_CREAT | constants.O_EXCL, mode));
  }

  async openAgain(path: string): Promise<OpenFile> {
    return new NodeFile(await fs.open(path, constants.O_RDWR));
  }

  link(from: string, to: string): Promise<void> {
    return fs.link(from, to);
  }

  rename(from: string, to: string): Promise<void> {
    return fs.rename(from, to);
  }

  unlink(path: DiskPath): Promise<void> {
    return fs.unlink(path);
  }

  async removeEmptyFolder(path: DiskPath): Promise<boolean> {
    try {
      await fs.rmdir(path);
      return true;
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code === 'ENOENT') return true;
      if (code === 'ENOTEMPTY' || code === 'EEXIST' || code === 'ENOTDIR') return false;
      throw error;
    }
  }

  async makeFolders(path: string): Promise<void> {
    const first = await fs.mkdir(path, { recursive: true });
    if (!first) return;
    // Each new level's name must be durable too, from the first one that was made down to the last.
    for (let level = path; ; level = parentOf(level)) {
      await this.syncFolder(parentOf(level));
      if (level === first || level === '/') return;
    }
  }

  async syncFolder(path: DiskPath): Promise<void> {
    const handle = await fs.open(path, constants.O_RDONLY);
    try {
      await handle.sync();
    } finally {
      await handle.close();
    }
  }

  async facts(path: DiskPath): Promise<FileFacts | null> {
    try {
      return factsOf(await fs.lstat(path));
    } catch (error) {
      if (['ENOENT', 'ENOTDIR'].includes((error as NodeJS.ErrnoException).code ?? '')) return null;
      throw error;
    }
  }

  realPath(path: string): Promise<string> {
    return fs.realpath(path);
  }

  names(path: DiskPath): Promise<Buffer[]> {
    return fs.readdir(path, { encoding: 'buffer' });
  }

  async space(path: string): Promise<Space> {
    const stats = await fs.statfs(path);
    return { free: stats.bavail * stats.bsize, total: stats.blocks * stats.bsize };
  }

  async writable(path: string): Promise<boolean> {
    try {
      await fs.access(path, constants.W_OK);
      return true;
    } catch (error) {
      if (['EROFS', 'EACCES', 'EPERM'].includes((error as NodeJS.ErrnoException).code ?? '')) return false;
      throw error;
    }
  }

  async touch(path: string, millis?: number): Promise<void> {
    const at = millis === undefined ? new Date() : new Date(millis);
    await fs.utimes(path, at, at);
  }

  watch(folder: string, onName: (name: string | null) => void): (() => void) | null {
    try {
      const watcher = watch(folder, { persistent: false }, (_, name) => onName(name));
      // A folder that went away: whoever watches is told by other means.
      watcher.on('error', () => watcher.close());
      return () => watcher.close();
    } catch {
      return null;
    }
  }

  symlink(target: string, path: string): Promise<void> {
    return fs.symlink(target, path);
  }

  // The threads that read and write files are few and shared: one mount that hangs would take them one by one.
  override probe(root: string, ownFile: string): Promise<Probe> {
    return this.looker.probe(root, ownFile);
  }

  override lookAt(order: LookOrder): Promise<MountLook> {
    return this.looker.mount(order);
  }

  override close(): void {
    this.looker.close();
  }
}

function parentOf(path: string): string {
  const slash = path.replace(/\/+$/, '').lastIndexOf('/');
  return slash <= 0 ? '/' : path.slice(0, slash);
}
