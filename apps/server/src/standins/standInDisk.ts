import { Disk, type DiskPath, type FileFacts, type OpenFile, type Space } from '../disk/disk';
import type { LookOrder, MountLook, Probe } from '../disk/mounts/look';
import type { Drive, Slot, StandInFaults } from './standInFaults';

const deviceError = (code: string, words: string): Error =>
  Object.assign(new Error(`${code}: ${words}`), { code });
const GONE = (): Error => deviceError('ENOENT', 'no such device');
const READ_ONLY = (): Error => deviceError('EROFS', 'read-only file system');
const FULL = (): Error => deviceError('ENOSPC', 'no space left on device');
const BAD = (): Error => deviceError('EIO', 'i/o error');

/**
 * A disk whose simulated readers and drives fail when they are told to, with the errors that the system gives for
 * real ones. Paths outside of them pass through untouched.
 */
export class StandInDisk extends Disk {
  constructor(
    private readonly real: Disk,
    private readonly faults: StandInFaults,
    private readonly now: () => number,
  ) {
    super();
  }

  async openRead(path: DiskPath, options?: { pastCache?: boolean }): Promise<OpenFile> {
    this.reachable(path);
    return this.wrap(await this.real.openRead(path, options), String(path));
  }

  async createNew(path: string, mode?: number): Promise<OpenFile> {
    this.mayWrite(path);
    return this.wrap(await this.real.createNew(path, mode), path);
  }

  async openAgain(path: string): Promise<OpenFile> {
    this.mayWrite(path);
    return this.wrap(await this.real.openAgain(path), path);
  }

  async link(from: string, to: string): Promise<void> {
    this.mayWrite(to);
    return this.real.link(from, to);
  }

  async rename(from: string, to: string): Promise<void> {
    this.mayWrite(to);
    return this.real.rename(from, to);
  }

  async unlink(path: DiskPath): Promise<void> {
    this.mayWrite(String(path));
    return this.real.unlink(path);
  }

  async removeEmptyFolder(path: DiskPath): Promise<boolean> {
    this.mayWrite(String(path));
    return this.real.removeEmptyFolder(path);
  }

  async makeFolders(path: string): Promise<void> {
    this.reachable(path);
    // A folder that is there already asks nothing of a drive that cannot be written to.
    if (this.faults.driveAt(path)?.faults.state === 'read-only' && !(await this.real.facts(path)))
      throw READ_ONLY();
    return this.real.makeFolders(path);
  }

  async syncFolder(path: DiskPath): Promise<void> {
    this.reachable(path);
    return this.real.syncFolder(path);
  }

  async facts(path: DiskPath): Promise<FileFacts | null> {
    return this.isUnplugged(path) ? null : this.real.facts(path);
  }

  async realPath(path: string): Promise<string> {
    this.reachable(path);
    return this.real.realPath(path);
  }

  async names(path: DiskPath): Promise<Buffer[]> {
    this.reachable(path);
    return this.real.names(path);
  }

  async space(path: string): Promise<Space> {
    this.reachable(path);
    const space = await this.real.space(path);
    const faults = this.faults.driveAt(path)?.faults;
    if (!faults) return space;
    if (faults.state === 'full') return { ...space, free: 0 };
    return { ...space, free: Math.min(space.free, faults.bytesUntilFull ?? Infinity) };
  }

  async writable(path: string): Promise<boolean> {
    this.reachable(path);
    return this.faults.driveAt(path)?.faults.state !== 'read-only' && this.real.writable(path);
  }

  watch(folder: string, onName: (name: string | null) => void): (() => void) | null {
    return this.real.watch(folder, onName);
  }

  async touch(path: string, millis?: number): Promise<void> {
    this.mayWrite(path);
    return this.real.touch(path, millis);
  }

  async symlink(target: string, path: string): Promise<void> {
    this.mayWrite(path);
    return this.real.symlink(target, path);
  }

  override async probe(root: string, ownFile: string): Promise<Probe> {
    this.reachable(root);
    // Not the real disk's own: what is simulated must be felt, and folders of this machine do not hang.
    if (this.faults.driveAt(root)) return super.probe(root, ownFile);
    return this.real.probe(root, ownFile);
  }

  override async lookAt(order: LookOrder): Promise<MountLook> {
    this.reachable(order.point);
    return this.real.lookAt(order);
  }

  override close(): void {
    this.real.close();
  }

  private isUnplugged(path: DiskPath): boolean {
    return this.faults.driveAt(String(path))?.faults.state === 'unplugged';
  }

  private reachable(path: DiskPath): void {
    if (this.isUnplugged(path)) throw GONE();
  }

  private mayWrite(path: string): void {
    this.reachable(path);
    if (this.faults.driveAt(path)?.faults.state === 'read-only') throw READ_ONLY();
  }

  private wrap(file: OpenFile, path: string): OpenFile {
    const slot = this.faults.slotAt(path);
    if (slot) return this.cardFile(file, slot, path.slice(slot.root.length + 1));
    const drive = this.faults.driveAt(path);
    return drive ? this.driveFile(file, drive) : file;
  }

  private cardFile(file: OpenFile, slot: Slot, relative: string): OpenFile {
    const openedAt = slot.inserted;
    const pulled = (): boolean => slot.inserted !== openedAt;
    return {
      read: async (target, position) => {
        if (pulled()) throw BAD();
        const { faults } = slot;
        if (faults.unreadable.includes(relative)) {
          const half = Math.floor((await file.facts()).size / 2);
          if (position >= half) throw BAD();
          // What stands before the bad place is still given out.
          return file.read(target.subarray(0, Math.min(target.byteLength, half - position)), position);
        }
        const got = await file.read(target, position);
        await this.delay(slot, got);
        await this.countDown(slot, got);
        if (pulled()) throw BAD();
        return got;
      },
      write: () => Promise.reject(READ_ONLY()),
      sync: () => file.sync(),
      facts: () => (pulled() ? Promise.reject(BAD()) : file.facts()),
      close: () => file.close(),
    };
  }

  /** Readings of one slot wait for each other, as on one cable. */
  private async delay(slot: Slot, bytes: number): Promise<void> {
    const rate = slot.faults.bytesPerSecond;
    if (rate === null || bytes === 0) return;
    slot.freeAt = Math.max(slot.freeAt, this.now()) + (bytes / rate) * 1000;
    await new Promise((resolve) => setTimeout(resolve, slot.freeAt - this.now()));
  }

  private async countDown(slot: Slot, bytes: number): Promise<void> {
    const left = slot.faults.pullAfterBytes;
    if (left === null) return;
    slot.faults = { ...slot.faults, pullAfterBytes: left > bytes ? left - bytes : null };
    if (left <= bytes) await this.faults.pull(slot.id);
  }

  private driveFile(file: OpenFile, drive: Drive): OpenFile {
    const present = (): void => {
      if (drive.faults.state === 'unplugged') throw BAD();
    };
    return {
      read: async (target, position) => {
        present();
        return file.read(target, position);
      },
      write: async (source, position) => {
        present();
        if (drive.faults.state === 'read-only') throw READ_ONLY();
        const left = drive.faults.state === 'full' ? 0 : drive.faults.bytesUntilFull;
        if (left !== null && source.byteLength > left) throw FULL();
        if (left !== null) drive.faults = { ...drive.faults, bytesUntilFull: left - source.byteLength };
        return file.write(source, position);
      },
      sync: async () => {
        present();
        return file.sync();
      },
      facts: async () => {
        present();
        return file.facts();
      },
      close: () => file.close(),
    };
  }
}
