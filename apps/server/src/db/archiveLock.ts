import path from 'node:path';
import Database from 'better-sqlite3';
import { ArkivError } from '@arkiv/core';
import type { Disk } from '../disk/disk';
import { discard, readOwn, replaceOwn, sha256Of } from '../disk/place';

/** A server that is just closing is waited for; longer would look like a program that hangs. */
const WAIT_MILLIS = 1000;

/**
 * One server for one data directory. The lock is SQLite's exclusive lock on a database of its own: the system gives
 * it back when its process ends, however it ends, so a crash leaves nothing behind that would have to be judged.
 */
export class ArchiveLock {
  private constructor(
    private readonly lock: Database.Database,
    private readonly disk: Disk,
    private readonly addressFile: string,
  ) {}

  /** Throws `archive.open`, with the address of the server that has it. To be called before the archive is opened. */
  static async take(dataDir: string, disk: Disk): Promise<ArchiveLock> {
    await disk.makeFolders(dataDir);
    const addressFile = path.join(dataDir, 'arkiv.address');
    const lock = new Database(path.join(dataDir, 'arkiv.lock'), { timeout: WAIT_MILLIS });
    try {
      lock.exec('BEGIN EXCLUSIVE');
    } catch (error) {
      lock.close();
      if ((error as { code?: string }).code !== 'SQLITE_BUSY') throw error;
      const address = (await readOwn(disk, addressFile))?.trim();
      throw new ArkivError('archive.open', { address: address || 'an address that it has not told yet' });
    }
    const taken = new ArchiveLock(lock, disk, addressFile);
    // What a killed server wrote there is nobody's address any more.
    await discard(disk, addressFile);
    return taken;
  }

  /** Whether a server has the archive of that directory open. */
  static isHeld(dataDir: string): boolean {
    let lock: Database.Database | null = null;
    try {
      lock = new Database(path.join(dataDir, 'arkiv.lock'), {
        readonly: true,
        fileMustExist: true,
        timeout: 0,
      });
      lock.pragma('schema_version');
      return false;
    } catch (error) {
      return (error as { code?: string }).code === 'SQLITE_BUSY';
    } finally {
      lock?.close();
    }
  }

  /** Where the server that has it open answers; null: it has not told yet. */
  static async addressOf(dataDir: string, disk: Disk): Promise<string | null> {
    return (await readOwn(disk, path.join(dataDir, 'arkiv.address')))?.trim() || null;
  }

  /** Writes down where this server answers, for the next one that is started on the same directory. */
  async tell(address: string): Promise<void> {
    const there = await readOwn(this.disk, this.addressFile);
    await replaceOwn(
      this.disk,
      this.addressFile,
      `${address}\n`,
      there === null ? null : sha256Of(there),
      'address',
    );
  }

  async release(): Promise<void> {
    if (!this.lock.open) return;
    await discard(this.disk, this.addressFile);
    this.lock.close();
  }
}
