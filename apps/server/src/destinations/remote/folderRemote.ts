import path from 'node:path';
import type { Readable } from 'node:stream';
import { ArkivError } from '@arkiv/core';
import { diskErrorCode, type Disk } from '../../disk/disk';
import { settle } from '../../disk/place';
import { hashFile } from '../../disk/verifiedCopy';
import { RemoteError, type Remote } from './remote';

/** A folder of this computer, or one that it has mounted. */
export class FolderRemote implements Remote {
  // What a kill left is written anew: here that costs little.
  readonly appends = false;

  private constructor(
    private readonly disk: Disk,
    private readonly root: string,
  ) {}

  /** Throws `folder` where it is not there: an empty place where a drive was is never filled. */
  static async open(disk: Disk, root: string): Promise<FolderRemote> {
    const facts = await disk.facts(root).catch(() => null);
    const real = facts?.kind === 'link' ? await disk.realPath(root).catch(() => null) : root;
    if (real === null || (await disk.facts(real).catch(() => null))?.kind !== 'folder')
      throw new RemoteError('folder', `there is no folder ${root}`);
    return new FolderRemote(disk, real);
  }

  async size(file: string): Promise<number | null> {
    return (await this.disk.facts(this.at(file)))?.size ?? null;
  }

  async makeFolder(folder: string): Promise<void> {
    await this.told(() => this.disk.makeFolders(this.at(folder)));
  }

  async write(file: string, _from: number, source: Readable): Promise<void> {
    await this.told(async () => {
      const out = await this.disk.createNew(this.at(file));
      let at = 0;
      try {
        for await (const bytes of source as AsyncIterable<Buffer>) {
          await out.write(bytes, at);
          at += bytes.length;
        }
        await out.sync();
      } finally {
        await out.close();
      }
    });
  }

  async sha256(file: string): Promise<string> {
    return (await hashFile(this.disk, this.at(file))).sha256;
  }

  async rename(from: string, to: string): Promise<void> {
    try {
      await settle(this.disk, this.at(from), this.at(to));
    } catch (error) {
      if (error instanceof ArkivError && error.code === 'file.exists')
        throw new RemoteError('exists', `${to} lies there already`);
      throw error;
    }
  }

  remove(file: string): Promise<void> {
    return this.disk.unlink(this.at(file));
  }

  async end(): Promise<void> {}

  private at(file: string): string {
    return path.join(this.root, ...file.split('/'));
  }

  private async told(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      const code = diskErrorCode(error);
      if (code === 'ENOSPC' || code === 'EDQUOT') throw new RemoteError('full', `${this.root} is full`);
      if (code === 'EACCES' || code === 'EPERM' || code === 'EROFS')
        throw new RemoteError('refused', `${this.root} cannot be written to`);
      throw error;
    }
  }
}
