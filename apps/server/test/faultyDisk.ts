import { Disk, type DiskPath, type FileFacts, type OpenFile, type Space } from '../src/disk/disk';
import { NodeDisk } from '../src/disk/nodeDisk';

export const diskError = (code: string): Error =>
  Object.assign(new Error(`${code}: made for a test`), { code });

/** The real disk with faults on demand: each hook may throw, or change what goes through. */
export class FaultyDisk extends Disk {
  readonly real = new NodeDisk();
  onOpen: (path: string) => void = () => undefined;
  onRead: (path: string, position: number) => void = () => undefined;
  onWrite: (path: string, bytes: Uint8Array) => Uint8Array = (_, bytes) => bytes;
  onLink: (to: string) => void = () => undefined;
  /** a name is about to be taken away */
  onUnlink: (path: string) => void = () => undefined;
  /** the names in a folder were read */
  onNames: (path: string) => void = () => undefined;
  onSync: (path: string) => void = () => undefined;
  freeBytes: number | null = null;
  /** most bytes that a reading gives */
  shorten: (path: string, position: number) => number = () => Infinity;

  async openRead(path: DiskPath, options?: { pastCache?: boolean }): Promise<OpenFile> {
    this.onOpen(String(path));
    return this.wrap(await this.real.openRead(path, options), String(path));
  }
  async createNew(path: string): Promise<OpenFile> {
    return this.wrap(await this.real.createNew(path), path);
  }
  async openAgain(path: string): Promise<OpenFile> {
    return this.wrap(await this.real.openAgain(path), path);
  }
  async link(from: string, to: string): Promise<void> {
    this.onLink(to);
    return this.real.link(from, to);
  }
  rename(from: string, to: string): Promise<void> {
    return this.real.rename(from, to);
  }
  async unlink(path: DiskPath): Promise<void> {
    this.onUnlink(String(path));
    return this.real.unlink(path);
  }
  removeEmptyFolder(path: DiskPath): Promise<boolean> {
    return this.real.removeEmptyFolder(path);
  }
  makeFolders(path: string): Promise<void> {
    return this.real.makeFolders(path);
  }
  syncFolder(path: DiskPath): Promise<void> {
    return this.real.syncFolder(path);
  }
  facts(path: DiskPath): Promise<FileFacts | null> {
    return this.real.facts(path);
  }
  realPath(path: string): Promise<string> {
    return this.real.realPath(path);
  }
  async names(path: DiskPath): Promise<Buffer[]> {
    const names = await this.real.names(path);
    this.onNames(String(path));
    return names;
  }
  async space(path: string): Promise<Space> {
    const space = await this.real.space(path);
    return this.freeBytes === null ? space : { ...space, free: this.freeBytes };
  }
  writable(path: string): Promise<boolean> {
    return this.real.writable(path);
  }
  watch(folder: string, onName: (name: string | null) => void): (() => void) | null {
    return this.real.watch(folder, onName);
  }

  touch(path: string, millis?: number): Promise<void> {
    return this.real.touch(path, millis);
  }
  symlink(target: string, path: string): Promise<void> {
    return this.real.symlink(target, path);
  }

  private wrap(file: OpenFile, path: string): OpenFile {
    return {
      read: async (target, position) => {
        this.onRead(path, position);
        return file.read(
          target.subarray(0, Math.min(target.byteLength, this.shorten(path, position))),
          position,
        );
      },
      write: async (source, position) => file.write(this.onWrite(path, source), position),
      sync: async () => {
        this.onSync(path);
        return file.sync();
      },
      facts: () => file.facts(),
      close: () => file.close(),
    };
  }
}
